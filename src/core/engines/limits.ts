/** The HTML above which some web mail cuts it off, in bytes. */
export const CLIPPING_SIZE = 102_400;

/** A style element of more than this, in bytes, is left out by web mail. */
export const MOST_HEAD_BYTES = 8192;
