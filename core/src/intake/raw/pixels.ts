/** Pictures that a file has as plain pixels, and pictures of other kinds, on their way to a kind that books carry. */

/** Rows from the top, pixels from the left, a byte for each channel: grey, RGB, or RGB with opacity. */
export interface Pixels {
  width: number;
  height: number;
  channels: 1 | 3 | 4;
  data: Uint8Array;
}

/** A picture of another kind, or plain pixels, as PNG or JPEG; null where it cannot be opened. */
export type ConvertPicture = (picture: Uint8Array | Pixels) => Promise<Uint8Array | null>;

export interface RawOptions {
  /** Turns pictures that no book carries into such. */
  convert?: ConvertPicture;
  /** False: only the text is wanted, and pictures that take long to read are passed over. */
  pictures?: boolean;
}

/** Fewer pixels: each the mean of a square of `by` × `by`. What is left over at the right and the foot is cut off. */
export function reduced(p: Pixels, by: number): Pixels {
  if (by < 2) return p;
  const { channels } = p;
  const [width, height] = [Math.floor(p.width / by), Math.floor(p.height / by)];
  const data = new Uint8Array(width * height * channels);
  const sums = new Uint32Array(width * channels);
  for (let y = 0; y < height; y++) {
    sums.fill(0);
    for (let row = y * by; row < (y + 1) * by; row++) {
      let at = row * p.width * channels;
      for (let x = 0; x < width; x++)
        for (let k = 0; k < by; k++)
          for (let c = 0; c < channels; c++) sums[x * channels + c]! += p.data[at++] as number;
    }
    const out = y * width * channels;
    for (let i = 0; i < sums.length; i++) data[out + i] = Math.round((sums[i] as number) / (by * by));
  }
  return { width, height, channels, data };
}

/** How a picture lies on its page: whether its rows run down the page's side, and which way its rows and columns count. */
export interface Turn {
  sideways: boolean;
  /** From the right, and from the foot, of the page. */
  mirrored: boolean;
  upsideDown: boolean;
}

/** The picture as a reader of the page sees it. */
export function turned(p: Pixels, { sideways, mirrored, upsideDown }: Turn): Pixels {
  if (!sideways && !mirrored && !upsideDown) return p;
  const { channels } = p;
  const [width, height] = sideways ? [p.height, p.width] : [p.width, p.height];
  const data = new Uint8Array(p.data.length);
  for (let y = 0, out = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const across = mirrored ? width - 1 - x : x;
      const down = upsideDown ? height - 1 - y : y;
      let from = (sideways ? across * p.width + down : down * p.width + across) * channels;
      for (let c = 0; c < channels; c++) data[out++] = p.data[from++] as number;
    }
  return { width, height, channels, data };
}

export async function asPng({ width, height, channels, data }: Pixels): Promise<Uint8Array> {
  const { encode } = await import('fast-png');
  return encode({ width, height, channels, data });
}
