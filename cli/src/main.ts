import { findCommand } from './find';
import { scanCommand } from './scan';

const usage = `libretto find PHOTO...
libretto scan PHOTO... --out DIR|FILE.pdf [--filter ID] [--dpi N] [--quads FILE.jsonl]

find prints one JSON line a photo with the pages' outlines; scan writes each page as PNG, or all as one PDF.
Filters: auto, original, even-light, grey, ink.`;

const [command, ...rest] = process.argv.slice(2);
if (command === 'find') process.exitCode = await findCommand(rest);
else if (command === 'scan') process.exitCode = await scanCommand(rest);
else {
  console.error(command && command !== '--help' ? `Unknown command "${command}"\n\n${usage}` : usage);
  process.exitCode = command === '--help' ? 0 : 1;
}
