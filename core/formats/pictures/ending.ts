/** Endings of pictures that are read, for pages that have no readers yet. */
const ENDINGS = ['png', 'jpg', 'jpeg', 'exr', 'hdr', 'pic', 'tif', 'tiff'] as const

/** Name of a file that is a picture. */
export const PICTURE = new RegExp(`\\.(${ENDINGS.join('|')})$`, 'i')

/** What file choosers take as pictures. */
export const ACCEPTED_PICTURES = ENDINGS.map(e => `.${e}`).join(',')
