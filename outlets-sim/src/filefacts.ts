/** What a shop found out about a file, whatever it is. */
export interface FileFacts {
  kind: string;
  /** Its words, as far as they are looked through. */
  text: string;
  /** Why it can't be used; '' where it can. */
  fault: string;
}
