/** Files at the other end of a line. */
/** Of an SFTP session: paths are the outlet's. */
export interface RemoteFiles {
  /** Bytes; null where there is no such file. */
  size(path: string): Promise<number | null>;
  read(path: string): Promise<string | null>;
  /** Writes a whole text. */
  put(path: string, text: string): Promise<void>;
  /** Writes from a byte on, into a file that is there so far or begun; nothing of it is cut off. */
  write(path: string, from: number, chunks: AsyncIterable<Uint8Array>): Promise<void>;
  rename(from: string, to: string): Promise<void>;
  /** A folder that may be there already. */
  folder(path: string): Promise<void>;
}
