import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { simpleParser } from 'mailparser';
import sharp from 'sharp';
import { begin, demoSheet, listen, order, resting, settled, smallPhoto } from './walk';

const data = process.env.E2E_DATA!;
const sheets = ['hull-survey-1', 'hull-survey-2', 'mooring-agreement-2'] as const;

/** Correlation of two pictures at 60×80 grey. */
async function likeness(a: string | Buffer, b: string | Buffer): Promise<number> {
  const grey = async (input: string | Buffer) => [
    ...(await sharp(input).resize(60, 80, { fit: 'fill' }).blur(0.6).toColourspace('b-w').raw().toBuffer()),
  ];
  const [x, y] = [await grey(a), await grey(b)];
  const mean = (v: number[]) => v.reduce((s, n) => s + n, 0) / v.length;
  const [mx, my] = [mean(x), mean(y)];
  const dot = (u: number[], mu: number, v: number[], mv: number) => u.reduce((s, n, i) => s + (n - mu) * (v[i]! - mv), 0);
  return dot(x, mx, y, my) / Math.sqrt(dot(x, mx, x, mx) * dot(y, my, y, my));
}

test('three photographs become a named PDF in a folder and a mailbox; a reload at any step loses nothing', async ({ page }) => {
  test.setTimeout(480_000);
  const errors = listen(page);
  await begin(page);

  // Bring in; reload while the edges are being found.
  await page.getByTestId('file-input').first().setInputFiles(sheets.map(smallPhoto));
  await expect(page.getByTestId('leaf')).toHaveCount(3, { timeout: 60_000 });
  await page.reload();
  await settled(page, 3);
  const [first, second, third] = await order(page);

  // Mend a corner by mouse, then nudge one by keys; reload.
  await page.getByTestId('leaf').first().click();
  await expect(page.getByText('Edges found')).toBeVisible();
  const handle = page.getByTestId('corner-0');
  await expect(handle).toBeVisible();
  const label = await handle.getAttribute('aria-label');
  const box = await resting(handle);
  await page.mouse.move(box.x + 22, box.y + 22);
  await page.mouse.down();
  await page.mouse.move(box.x + 30, box.y + 33, { steps: 4 });
  await expect(page.getByTestId('loupe')).toBeVisible();
  await page.mouse.up();
  await expect(page.getByText('Edges set by you')).toBeVisible();
  expect(await handle.getAttribute('aria-label')).not.toBe(label);
  const dragged = await handle.getAttribute('aria-label');
  await page.reload();
  await expect(handle).toHaveAttribute('aria-label', dragged!);
  await handle.focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('ArrowUp');
  const [x, y] = dragged!.match(/-?\d+/g)!.map(Number);
  await expect(handle).toHaveAttribute('aria-label', new RegExp(`, ${x! - 10}, ${y! - 1}\\.`));
  await page.getByRole('button', { name: 'As found' }).click();
  await expect(handle).toHaveAttribute('aria-label', label!);

  // Finish: ink here, then everywhere; reload.
  await page.getByRole('tab', { name: 'Finish' }).click();
  await expect(page.getByRole('radio').locator('img')).toHaveCount(6, { timeout: 60_000 });
  await page.getByRole('radio', { name: /^Ink/ }).click();
  await page.getByRole('button', { name: 'Use for all 3 pages' }).click();
  await page.reload();
  await expect(page.getByRole('radio', { name: /^Ink/ })).toHaveAttribute('aria-checked', 'true');
  await page.getByLabel('To the pages').click();
  await settled(page, 3);

  // Reorder by keyboard and by mouse; reload.
  await page.getByTestId('leaf').nth(0).focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(300);
  await page.keyboard.press('Space');
  await expect.poll(() => order(page)).toEqual([second, first, third]);
  const from = await resting(page.getByTestId('leaf').nth(2));
  const to = await resting(page.getByTestId('leaf').nth(0));
  await page.mouse.move(from.x + 60, from.y + 60);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y + 40, { steps: 3 });
  await page.mouse.move(to.x + 60, to.y + 60, { steps: 12 });
  await page.mouse.up();
  await expect.poll(() => order(page)).toEqual([third, second, first]);
  await page.reload();
  await settled(page, 3);
  expect(await order(page)).toEqual([third, second, first]);

  // Delete, and take it back.
  await page.getByLabel('More for page 2').click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByTestId('leaf')).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(() => order(page)).toEqual([third, second, first]);

  // Name; reload.
  await page.getByLabel('Change the name').click();
  await page.getByLabel('Name of the document').fill('2026-11-20 Überführung: Wren');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: '2026-11-20 Überführung: Wren' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: '2026-11-20 Überführung: Wren' })).toBeVisible();

  // Send to both; what was ticked and typed outlives a reload; reload again right after the press.
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  for (const name of [/Yard records/, /Owner and insurer/]) {
    const place = page.getByRole('checkbox', { name });
    await expect(place).toBeVisible();
    if ((await place.getAttribute('aria-checked')) !== 'true') await place.click();
  }
  await page.getByLabel('Message for the mail').fill('The survey, as agreed.');
  await page.reload();
  await expect(page.getByLabel('Message for the mail')).toHaveValue('The survey, as agreed.');
  await expect(page.getByTestId('file-size')).toContainText('fits a mail', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Send to 2 places' }).click();
  await expect(page).toHaveURL(/outbox/);
  await page.reload();
  await expect(page.getByTestId('delivery-arrived')).toHaveCount(2, { timeout: 60_000 });
  await expect(page.getByText('Verified copy')).toBeVisible();
  await expect(page.getByText('Accepted by the mail server')).toBeVisible();

  // What lies in the stand-in folder, read by programs that are not ours.
  const folder = path.join(data, 'stand-ins/folder/Surveys', String(new Date().getFullYear()));
  expect(readdirSync(folder).filter((n) => n.startsWith('2026-11-20'))).toEqual(['2026-11-20 Überführung- Wren.pdf']);
  const pdf = path.join(folder, '2026-11-20 Überführung- Wren.pdf');
  execFileSync('qpdf', ['--check', pdf]);
  const info = execFileSync('pdfinfo', ['-l', '9', pdf]).toString();
  expect(info).toMatch(/Title:\s+2026-11-20 Überführung: Wren/);
  expect(info).toMatch(/Pages:\s+3/);
  const sizes = [...info.matchAll(/Page\s+\d+ size:\s+([\d.]+) x ([\d.]+)/g)].map((m) =>
    [m[1], m[2]].map((pt) => Math.round((Number(pt) / 72) * 25.4 * 10) / 10),
  );
  // Legal (ANSI), then twice A4 (ISO 216).
  expect(sizes).toEqual([[215.9, 355.6], [210, 297], [210, 297]]); // prettier-ignore
  const images = execFileSync('pdfimages', ['-list', pdf]).toString().trim().split('\n').slice(2);
  expect(images.map((line) => line.trim().split(/\s+/).slice(7, 9).join(' '))).toEqual(['1 ccitt', '1 ccitt', '1 ccitt']);
  const out = mkdtempSync(path.join(tmpdir(), 'libretto-drawn-'));
  execFileSync('pdftoppm', ['-r', '50', '-png', pdf, path.join(out, 'page')]);
  const wanted = ['mooring-agreement-2', 'hull-survey-2', 'hull-survey-1'];
  for (const [i, name] of wanted.entries()) {
    const scores = await Promise.all(
      sheets.map(async (sheet) => ({ sheet, score: await likeness(path.join(out, `page-${i + 1}.png`), demoSheet(sheet)) })),
    );
    scores.sort((a, b) => b.score - a.score);
    expect(scores[0]).toMatchObject({ sheet: name, score: expect.any(Number) });
    expect(scores[0]!.score).toBeGreaterThan(0.6);
  }

  // The mail, parsed by a library that is not ours: its attachment is the same bytes.
  const mailbox = path.join(data, 'stand-ins/mail');
  const mails = await Promise.all(
    readdirSync(mailbox)
      .filter((n) => n.endsWith('.eml'))
      .map((n) => simpleParser(readFileSync(path.join(mailbox, n)))),
  );
  const ours = mails.filter((m) => m.subject?.includes('2026-11-20'));
  expect(ours).toHaveLength(1);
  const mail = ours[0]!;
  expect([mail.to].flat()[0]!.value.map((v) => v.address)).toEqual([
    'owner@wren.example.org',
    'claims@marine-mutual.example.com',
  ]);
  expect(mail.text).toContain('The survey, as agreed.');
  const hash = (b: Buffer) => createHash('sha256').update(b).digest('hex');
  expect(mail.attachments.map((a) => hash(a.content))).toEqual([hash(readFileSync(pdf))]);

  // The shelf says what became of it.
  await page.goto('/');
  await expect(page.getByText(/Mailed to Owner and insurer|Arrived in Yard records/)).toBeVisible();
  expect(errors).toEqual([]);
});
