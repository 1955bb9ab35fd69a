/** Text as a terminal may have it: control characters a file brought along are shown as a dot, or they would move the cursor or worse. */
export const printable = (text: string, kept = '\n\t'): string =>
  text.replace(/\p{Cc}/gu, (control) => (kept.includes(control) ? control : '·'));

/** JSON in which control characters are written out. */
export const printableJson = (value: unknown): string =>
  JSON.stringify(value, null, 2).replace(/\p{Cc}/gu, (control) =>
    control === '\n' ? control : `\\u${control.codePointAt(0)!.toString(16).padStart(4, '0')}`,
  );

/** Runs a command of the terminal: an error is its one sentence; a reader that has seen enough (`| head`) ends it quietly. */
export function runCommand(command: (args: string[]) => Promise<void>): void {
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EPIPE') process.exit(0);
    throw error;
  });
  command(process.argv.slice(2)).catch((error: unknown) => {
    console.error(printable(error instanceof Error ? error.message : String(error)));
    process.exitCode = 1;
  });
}
