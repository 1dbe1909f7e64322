/** Something that is not as it was recorded. */
export interface Fault {
  /** A table; or the outside end of the chain. */
  readonly where: string;
  /** The entry it belongs to, where that is known. */
  readonly seq: number | null;
  readonly words: string;
}
