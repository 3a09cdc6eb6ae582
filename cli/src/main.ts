import { findCommand } from './find';
import { readCommand } from './read';
import { scanCommand } from './scan';

const usage = `libretto find PHOTO...
libretto scan PHOTO... --out DIR|FILE.pdf|FILE.tif|FILE.zip|FILE.jpg|FILE.png|FILE.txt [--filter ID] [--dpi N] [--quads FILE.jsonl] [--text] [--layered] [--under MB] [--password-env NAME]
libretto read FILE... [--page] [--language CODE]

find prints one JSON line a photo with the pages' outlines; scan writes each page as PNG, or all as one PDF (with --text a searchable one, with --layered print in all its dots over paper and pictures with fewer, with --under no larger than so many megabytes, with --password-env one that opens by the password in that variable only), TIFF or text;
read prints one JSON line a page with its words (--page: the files are finished pages).
Filters: auto, original, even-light, grey, ink, board, picture.`;

const commands = { find: findCommand, scan: scanCommand, read: readCommand };
const [command = '', ...rest] = process.argv.slice(2);
if (command === '--help' || rest.includes('--help')) console.log(usage);
else if (command in commands) {
  try {
    process.exitCode = await commands[command as keyof typeof commands](rest);
  } catch (error) {
    // Options that `parseArgs` does not know.
    if (!String((error as { code?: unknown }).code).startsWith('ERR_PARSE_ARGS')) throw error;
    console.error(`${command}: ${(error as Error).message}\n\n${usage}`);
    process.exitCode = 1;
  }
} else {
  console.error(command ? `Unknown command "${command}"\n\n${usage}` : usage);
  process.exitCode = 1;
}
