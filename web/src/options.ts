/** What can be chosen: a label for every value, or items in a list. */
export type Options<T extends string> = Readonly<Record<T, string>> | readonly { readonly value: T; readonly label: string }[];

export const listed = <T extends string>(options: Options<T>): { value: T; label: string }[] =>
  Array.isArray(options)
    ? [...options]
    : Object.entries(options).map(([value, label]) => ({ value: value as T, label: label as string }));
