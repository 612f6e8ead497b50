/** How documents of a project name images: by the content hash of an asset. */
export const ASSET = /^asset:([0-9a-f]{64})$/
