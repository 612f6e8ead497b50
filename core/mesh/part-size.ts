/** How large a part's mesh is, as it is stored: copies that are scaled keep the size of what they copy. */
export interface PartSize {
  /** Longest edge of the box about it, metres. */
  extent: number
  /** Metres along the surface that one tile of a picture takes, along u and along v; 0 without coordinates. */
  tile: readonly [u: number, v: number]
}
