/** A picture in greys. */
export interface Grey {
  width: number;
  height: number;
  /** 0 black to 255 white. */
  data: Uint8ClampedArray;
}
