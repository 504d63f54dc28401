/** Bytes of pixels that frames of clips may take in a worker that paints, at full size; smaller sizes of them come on top. */
export const clipMemory = 360e6;
