/** Model files that are read here and sent as GLB. */
export const FOREIGN = /\.(obj|stl|ply)$/i;
