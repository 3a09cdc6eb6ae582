import { createReadStream } from 'node:fs';
import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import type { FastifyPluginAsync } from 'fastify';
import { simpleParser } from 'mailparser';
import { bytesInWords } from '@libretto/model';
import { folderMoods, mailMoods, wellBehaved, type FolderMood, type MailMood, type Moods } from './moods';

export interface ArrivalsOptions {
  folder: string;
  mail: string;
  /** How the stand-ins behave, to be changed on the page. */
  moods?: Moods;
}

interface Letter {
  name: string;
  subject: string;
  to: string;
  text: string;
  at: Date;
  attachments: readonly { name: string; bytes: number }[];
}

/** A small page that shows what has arrived in the stand-in folder and the stand-in mailbox, with everything to take away. */
export const arrivals: FastifyPluginAsync<ArrivalsOptions> = async (app, { folder, mail, moods = wellBehaved() }) => {
  // A letter does not change: each is taken apart once, one at a time, and only what the page shows is kept of it.
  const known = new Map<string, Letter>();
  async function about(name: string): Promise<Letter> {
    const before = known.get(name);
    if (before) return before;
    const message = await simpleParser(await readFile(path.join(mail, name)));
    const letter: Letter = {
      name,
      subject: message.subject ?? '',
      to: [message.to, message.cc]
        .flat()
        .flatMap((t) => t?.text ?? [])
        .join(', '),
      text: (message.text ?? '').trim(),
      at: message.date ?? new Date(0),
      attachments: message.attachments.map((a) => ({ name: a.filename ?? 'attachment', bytes: a.size })),
    };
    known.set(name, letter);
    return letter;
  }

  app.get('/', async (_request, reply) => {
    const files = await filesIn(folder);
    const names = (await readdir(mail).catch(() => []))
      .filter((n) => n.endsWith('.eml'))
      .sort()
      .reverse()
      .slice(0, 200);
    const letters: Letter[] = [];
    for (const name of names) letters.push(await about(name));
    const fileRows = files.map(
      (f) =>
        `<tr><td><a href="/stand-ins/folder/${encodeURIComponent(f.name)}">${escape(f.name)}</a></td><td>${bytesInWords(f.bytes)}</td><td>${when(f.at)}</td></tr>`,
    );
    const mailRows = letters.map((letter) => {
      const attachments = letter.attachments
        .map(
          (a, i) =>
            `<a href="/stand-ins/mail/${encodeURIComponent(letter.name)}/${i}">${escape(a.name)}</a> (${bytesInWords(a.bytes)})`,
        )
        .join(', ');
      return `<tr><td><b>${escape(letter.subject)}</b><br>to ${escape(letter.to)}<br><span>${escape(letter.text)}</span></td><td>${attachments}</td><td>${when(letter.at)}</td></tr>`;
    });
    return reply.type('text/html; charset=utf-8').send(page(fileRows, mailRows, moods));
  });

  // A form without fields: what it asks stands in its address.
  app.addContentTypeParser('application/x-www-form-urlencoded', { bodyLimit: 1000, parseAs: 'string' }, (_request, _body, done) => done(null)); // prettier-ignore
  app.post<{ Params: { which: string; mood: string } }>('/mood/:which/:mood', async ({ params: { which, mood } }, reply) => {
    if (which === 'folder' && isOne(folderMoods, mood)) moods.folder = mood;
    else if (which === 'mail' && isOne(mailMoods, mood)) moods.mail = mood;
    else return reply.code(404).send('No such mood');
    return reply.redirect('/stand-ins/', 303);
  });

  app.get<{ Params: { '*': string } }>('/folder/*', async ({ params }, reply) => {
    const file = path.join(folder, params['*']);
    if (!file.startsWith(folder + path.sep) || !(await stat(file).catch(() => null))?.isFile())
      return reply.code(404).send('Not there');
    return reply.header('content-disposition', 'attachment').type('application/octet-stream').send(createReadStream(file));
  });

  app.get<{ Params: { name: string; index: string } }>('/mail/:name/:index', async ({ params }, reply) => {
    const file = path.join(mail, path.basename(params.name));
    if (!file.endsWith('.eml') || !(await stat(file).catch(() => null))) return reply.code(404).send('Not there');
    const attachment = (await simpleParser(await readFile(file))).attachments[Number(params.index)];
    if (!attachment) return reply.code(404).send('Not there');
    return reply.header('content-disposition', 'attachment').type('application/octet-stream').send(attachment.content);
  });
};

async function filesIn(root: string): Promise<{ name: string; bytes: number; at: Date }[]> {
  const names = await readdir(root, { recursive: true }).catch(() => [] as string[]);
  const files = await Promise.all(
    names.map(async (name) => {
      const s = await stat(path.join(root, name));
      return s.isFile() && !/\.(part|incoming)$/.test(name) ? { name, bytes: s.size, at: s.mtime } : null;
    }),
  );
  return files.filter((f) => f !== null).sort((a, b) => +b.at - +a.at);
}

const when = (at: Date) => at.toISOString().slice(0, 16).replace('T', ' ');
const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const isOne = <T extends string>(list: readonly T[], word: string): word is T => (list as readonly string[]).includes(word);

/** What each mood does, in words. */
const behaves: Record<FolderMood | MailMood, string> = {
  well: 'As it should',
  slow: 'Slow: every answer waits four seconds',
  failing: 'Failing: asks to come again later',
  full: 'Full',
  locked: 'Locked',
  password: 'Refuses the password',
  refusing: 'Knows none of the addresses',
  cut: 'Cuts the connection in the middle',
  lying: 'Gives back other bytes than it was given',
};
const choices = (which: 'folder' | 'mail', all: readonly (FolderMood | MailMood)[], now: string) =>
  `<div class="moods">${all.map((mood) => `<form method="post" action="/stand-ins/mood/${which}/${mood}"><button${mood === now ? ' aria-pressed="true" disabled' : ' aria-pressed="false"'}>${behaves[mood]}</button></form>`).join('')}</div>`;

function page(files: string[], letters: string[], moods: Moods): string {
  const table = (rows: string[], empty: string) => (rows.length ? `<table>${rows.join('')}</table>` : `<p>${empty}</p>`);
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>What has arrived</title>
<style>body{font:16px/1.5 system-ui;margin:24px auto;max-width:900px;padding:0 16px;background:#faf6ee;color:#26211e}h1,h2{font-family:Georgia,serif}h1{color:#6e1f3a}
table{border-collapse:collapse;width:100%;background:#fffdf8}td{border:1px solid #dcd2c3;padding:8px;vertical-align:top;overflow-wrap:anywhere}span{white-space:pre-wrap;color:#6a6059}a{color:#6e1f3a}
.moods{display:flex;flex-wrap:wrap;gap:8px}form{margin:0}button{font:inherit;min-height:44px;padding:0 12px;border:1px solid #dcd2c3;border-radius:4px;background:#fffdf8;color:#26211e;cursor:pointer}button[aria-pressed=true]{border:2px solid #6e1f3a;color:#6e1f3a;cursor:default}</style>
<h1>What has arrived</h1><p>The stand-in folder and mailbox of this machine. Nothing leaves it.</p>
<p>How each behaves can be changed, so that every failure can be seen.</p>
<h2>Folder</h2>${choices('folder', folderMoods, moods.folder)}${table(files, 'No file yet.')}<h2>Mailbox</h2>${choices('mail', mailMoods, moods.mail)}${table(letters, 'No mail yet.')}</html>`;
}
