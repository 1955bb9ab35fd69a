/** Text as a terminal may have it: control characters a file brought along are shown as a dot, or they would move the cursor or worse. */
export const printable = (text: string, kept = '\n\t'): string =>
  text.replace(/\p{Cc}/gu, (control) => (kept.includes(control) ? control : '·'));

/** JSON in which control characters are written out. */
export const printableJson = (value: unknown): string =>
  JSON.stringify(value, null, 2).replace(/\p{Cc}/gu, (control) =>
    control === '\n' ? control : `\\u${control.codePointAt(0)!.toString(16).padStart(4, '0')}`,
  );

/** A command of the terminal: says what it has to say, and answers its exit code. @throws Error whose message is one sentence for the user. */
export type Command = (args: readonly string[], say: (text: string) => void) => Promise<number>;

/** Runs a command and answers its exit code: an error is its one sentence. */
export async function runCommand(
  command: Command,
  args: readonly string[],
  { out, err }: { readonly out: (text: string) => void; readonly err: (text: string) => void },
): Promise<number> {
  try {
    return await command(args, out);
  } catch (error) {
    err(`${printable(error instanceof Error ? error.message : String(error))}\n`);
    return 1;
  }
}
