import { findCommand } from './find';
import { readCommand } from './read';
import { scanCommand } from './scan';

const usage = `libretto find PHOTO...
libretto scan PHOTO... --out DIR|FILE.pdf|FILE.tif|FILE.zip|FILE.jpg|FILE.png|FILE.txt [--filter ID] [--dpi N] [--quads FILE.jsonl] [--text] [--password-env NAME]
libretto read FILE... [--page] [--language CODE]

find prints one JSON line a photo with the pages' outlines; scan writes each page as PNG, or all as one PDF (with --text a searchable one, with --password-env one that opens by the password in that variable only), TIFF or text;
read prints one JSON line a page with its words (--page: the files are finished pages).
Filters: auto, original, even-light, grey, ink.`;

const [command, ...rest] = process.argv.slice(2);
if (command === 'find') process.exitCode = await findCommand(rest);
else if (command === 'scan') process.exitCode = await scanCommand(rest);
else if (command === 'read') process.exitCode = await readCommand(rest);
else {
  console.error(command && command !== '--help' ? `Unknown command "${command}"\n\n${usage}` : usage);
  process.exitCode = command === '--help' ? 0 : 1;
}
