import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const file = (name: string) => fileURLToPath(new URL(`../../docs/${name}`, import.meta.url));

interface Noted {
  command: string;
  day: string;
  figures: Record<string, unknown>;
}

/**
 * With `--note` what a bench says last, one JSON object of its figures, goes into `docs/figures.json`, and the table of all of them into `docs/figures.md`. A run that ends in failure
 * notes nothing.
 */
export class Noting {
  private last = '';
  private name = '';

  constructor(private readonly args: readonly string[]) {
    const log = console.log.bind(console);
    console.log = (...said: unknown[]) => {
      this.last = said.join(' ');
      log(...said);
    };
    // Some benches end the process themselves.
    process.on('exit', (code) => {
      if (!code) this.end();
    });
  }

  begin(name: string): void {
    this.end();
    this.name = name;
  }

  private end(): void {
    const { name, last } = this;
    this.name = '';
    if (!name || !last.startsWith('{')) return;
    const all = existsSync(file('figures.json'))
      ? (JSON.parse(readFileSync(file('figures.json'), 'utf8')) as Record<string, Noted>)
      : {};
    const own = this.args.filter((arg) => arg !== '--note' && arg !== name);
    all[[name, ...measured(own)].join(' ')] = { command: `npm run bench -- ${[name, ...own].join(' ')}`, day: new Date().toISOString().slice(0, 10), figures: JSON.parse(last) as Noted['figures'] }; // prettier-ignore
    const sorted = Object.fromEntries(Object.entries(all).sort(([a], [b]) => (a < b ? -1 : 1)));
    writeFileSync(file('figures.json'), `${JSON.stringify(sorted, null, 2)}\n`);
    writeFileSync(file('figures.md'), table(sorted));
  }
}

/** Of how many it is told, and where they are kept: the same is measured, so that the later figures take the place of the earlier. */
const howMany = new Set(['--runs', '--changes', '--per-category', '--documents', '--rounds', '--script', '--keep']);

/** What of a bench's arguments decides what it measures. */
export const measured = (args: readonly string[]): string[] =>
  args.filter((arg, i) => !howMany.has(arg) && !howMany.has(args[i - 1] ?? ''));

/** @returns Markdown; what the figures mean stands with each bench. */
export function table(all: Record<string, Noted>): string {
  const shown = (value: unknown): string =>
    Array.isArray(value)
      ? value.map(shown).join(' / ')
      : value !== null && typeof value === 'object'
        ? Object.entries(value).map(([key, one]) => `${key} ${shown(one)}`).join(', ') // prettier-ignore
        : String(value);
  const rows = Object.values(all).flatMap(({ command, day, figures }) =>
    Object.entries(figures).map(([key, value], i) => `| ${i ? '' : `\`${command}\`, ${day}`} | ${key} | ${shown(value)} |`),
  );
  return `# Figures\n\nWritten by the benches themselves (\`--note\`); what each measures stands at the head of \`bench/src/main.ts\`.\n\n| bench | figure | value |\n| --- | --- | --- |\n${rows.join('\n')}\n`;
}
