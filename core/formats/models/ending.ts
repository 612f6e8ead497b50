/**
 * Endings of files that are models. Apart from the readers, so that pages which only look at names need none of
 * them.
 */
export const MODEL = /\.(glb|gltf|obj|ply)$/i
