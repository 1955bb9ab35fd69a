/** One thing wrong with an input: where (path in the document) and a sentence that names the field. */
export type Issue = {
  readonly path: string;
  readonly message: string;
  /** Nobody allows it, but it can be planned as it is. */
  readonly planned?: true;
};
