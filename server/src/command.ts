import { check } from './check.ts';
import { plan } from './plan.ts';
import { type Command, runCommand } from './terminal.ts';

const COMMANDS: Readonly<Record<string, Command>> = { plan, check };

// a reader that has seen enough (`| head`) ends it quietly
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  throw error;
});

const [name = '', ...args] = process.argv.slice(2);
const command = COMMANDS[name];
if (!command) throw new Error(`There is no command "${name}": it is one of ${Object.keys(COMMANDS).join(', ')}.`);
process.exitCode = await runCommand(command, args, {
  out: (text) => void process.stdout.write(text),
  err: (text) => void process.stderr.write(text),
});
