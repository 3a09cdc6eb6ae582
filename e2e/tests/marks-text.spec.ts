import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { begin, bringIn, demoPhoto, listen, order, resting, settled, smallPhoto } from './walk';

type Box = Record<'x' | 'y' | 'width' | 'height', number>;

/** Saves the open document to a file, with all that was read on its `pages` pages. */
async function saved(page: Page, pages: number): Promise<string> {
  const open = async () => {
    await page.getByRole('button', { name: 'Send', exact: true }).click();
    const device = page.getByRole('checkbox', { name: /This device/ });
    if ((await device.getAttribute('aria-checked')) !== 'true') await device.click();
  };
  await open();
  await expect(page.getByText('pages read so far')).toHaveCount(0, { timeout: 180_000 });
  await expect(page.getByTestId('file-size')).toBeVisible({ timeout: 120_000 });
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-marks-')), 'saved.pdf');
  // The words of the page read last are put in: until they are there, the file without them could be saved.
  for (let left = 30; left > 0; left--) {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save to this device' }).click();
    await (await download).saveAs(file);
    const blank = execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' }).split('\f').slice(0, pages).filter((t) => !t.trim()); // prettier-ignore
    if (!blank.length) break;
    await page.waitForTimeout(1000);
    if (!(await page.getByRole('button', { name: 'Save to this device' }).isVisible())) await open();
  }
  execFileSync('qpdf', ['--check', file]);
  return file;
}

const textOf = (file: string) => execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });

test('a page is read, found from the shelf and copied; what is covered is in no file', async ({ page }) => {
  test.setTimeout(480_000);
  const errors = listen(page);
  const elsewhere: string[] = [];
  page.on(
    'request',
    (r) => !/^(blob|data):/.test(r.url()) && new URL(r.url()).hostname !== '127.0.0.1' && elsewhere.push(r.url()),
  );
  await begin(page, undefined, { reads: true });
  await bringIn(page, [demoPhoto('timber-docket')]);
  const before = await saved(page, 1);
  expect(textOf(before)).toContain('Marram & Pole');
  await page.keyboard.press('Escape');

  // Covered: the dealer's name, half a line of the page.
  await page.getByTestId('leaf').first().click();
  await page.getByRole('tab', { name: 'Text' }).click();
  const words = page.getByRole('document', { name: 'The words of the page' });
  await expect(words.getByText('Marram', { exact: true })).toBeAttached();
  // In one go: the screen may be laid out anew between two.
  const [name, sheet] = (await words.getByText('Marram', { exact: true }).evaluate((word) =>
    [word, word.closest('[role=document]')!].map((e) => {
      const { x, y, width, height } = e.getBoundingClientRect();
      return { x, y, width, height };
    }),
  )) as [Box, Box];
  await page.getByLabel('Find on this page').fill('larch');
  await expect(page.getByText('1 place', { exact: true })).toBeVisible();

  // Its table is taken out as one, a cell put right first.
  await page.getByRole('button', { name: 'Take out as a table' }).click();
  await page.getByLabel('Row 2, column 1').fill('Larch, boat skin grade, planed');
  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as spreadsheet' }).click(),
  ]);
  const tableFile = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-e2e-')), 'table.xlsx');
  await table.saveAs(tableFile);
  const sheetXml = (part: string) => execFileSync('unzip', ['-p', tableFile, part], { encoding: 'utf8' });
  expect(sheetXml('xl/sharedStrings.xml')).toContain('Larch, boat skin grade, planed');
  expect(sheetXml('xl/worksheets/sheet1.xml')).toContain('<v>6.4</v>');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Marks' }).click();
  const stage = page.locator('[data-testid=marks-stage][aria-busy=false] canvas');
  await expect(stage).toBeVisible({ timeout: 60_000 });
  await page.getByRole('radio', { name: 'Cover' }).click();
  const canvas = await resting(stage);
  const across = (x: number) => canvas.x + ((x - sheet.x) / sheet.width) * canvas.width;
  const down = (y: number) => canvas.y + ((y - sheet.y) / sheet.height) * canvas.height;
  const draw = async () => {
    await page.mouse.move(across(name.x) - 4, down(name.y) - 3);
    await page.mouse.down();
    await page.mouse.move(across(name.x + name.width) + 4, down(name.y + name.height) + 3, { steps: 5 });
    await page.mouse.up();
  };
  await draw();
  await expect(page.getByText('1 mark, one covers what is under it')).toBeVisible();
  await page.reload();
  await expect(page.getByText('1 mark, one covers what is under it')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Done' }).click();
  await settled(page, 1);

  const after = await saved(page, 1);
  const text = textOf(after);
  expect(text).not.toContain('Marram');
  expect(text).toContain('Delivery docket');
  expect(execFileSync('qpdf', ['--qdf', '--object-streams=disable', after, '-'], { encoding: 'latin1' })).not.toContain('Marram');
  // Its pixels: as many are black as were covered, and no other picture lies in the file.
  const folder = path.dirname(after);
  execFileSync('pdfimages', ['-all', after, path.join(folder, 'image')]);
  const images = readdirSync(folder).filter((n) => n.startsWith('image'));
  expect(images).toHaveLength(1);
  const { data, info } = await sharp(path.join(folder, images[0]!)).greyscale().raw().toBuffer({ resolveWithObject: true });
  const [left, top] = [(name.x - sheet.x) / sheet.width, (name.y - sheet.y) / sheet.height];
  const [wide, high] = [name.width / sheet.width, name.height / sheet.height];
  for (let j = 0; j <= 10; j++)
    for (let i = 0; i <= 20; i++) {
      const [x, y] = [Math.round((left + (wide * i) / 20) * info.width), Math.round((top + (high * j) / 10) * info.height)];
      expect(data[y * info.width + x]!).toBeLessThan(24);
    }

  // Found from the shelf by what stands on it, and no longer by what is covered.
  await page.goto('/');
  await page.getByLabel('Search names, words, dates').fill('iroko');
  await expect(page.getByText(/Iroko, planed/)).toBeVisible();
  await page.getByLabel('Search names, words, dates').fill('marram');
  await expect(page.getByText('Nothing is found for')).toBeVisible();
  await page.getByLabel('Search names, words, dates').fill('iroko');
  await page.getByText(/Iroko, planed/).click();
  await expect(page.getByRole('tab', { name: 'Text' })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByText('1 place', { exact: true })).toBeVisible();
  // Taken back, it is there again.
  await page.getByLabel('Undo').first().click();
  await expect(words.getByText('Marram', { exact: true })).toBeAttached({ timeout: 120_000 });
  expect(elsewhere).toEqual([]);
  expect(errors).toEqual([]);
});

test('a picture that is printed on a page is in the text document made of it', async ({ page }) => {
  test.setTimeout(300_000);
  await begin(page, undefined, { reads: true });
  await bringIn(page, [demoPhoto('harbour-chart')]);
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /This device/ }).click();
  await page.getByRole('button', { name: 'Change the file' }).click();
  await page.getByText('Words', { exact: true }).click();
  await expect(page.getByText('pages read so far')).toHaveCount(0, { timeout: 180_000 });
  await expect(page.getByTestId('file-size')).toBeVisible({ timeout: 120_000 });
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-picture-')), 'chart.docx');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save to this device' }).click();
  await (await download).saveAs(file);
  // Debian's unzip.
  expect(execFileSync('unzip', ['-p', file, 'word/document.xml'], { encoding: 'utf8' })).toContain('Saltmarsh');
  const [name] = /word\/media\/\S+\.jpg/.exec(execFileSync('unzip', ['-l', file], { encoding: 'utf8' }))!;
  const { width, height } = await sharp(execFileSync('unzip', ['-p', file, name], { maxBuffer: 1e8 })).metadata();
  // All of the chart as its frame has it, its white sea too.
  expect(width! / height!).toBeCloseTo(1.43, 1);
});

test('pages are chosen and moved, documents filed, tagged and joined; all of it is taken back', async ({ page }) => {
  test.setTimeout(300_000);
  const errors = listen(page);
  await begin(page);
  await bringIn(page, ['hull-survey-1', 'hull-survey-2', 'timber-docket'].map(smallPhoto));
  const [a, b, c] = await order(page);
  const leaf = page.getByTestId('leaf');

  // By mouse: two of them, put together elsewhere.
  await leaf.nth(0).click({ modifiers: ['Control'] });
  await leaf.nth(1).click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '2 of 3' })).toBeVisible();
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await page.getByRole('button', { name: 'To the end' }).click();
  await expect.poll(() => order(page)).toEqual([c, a, b]);

  // By keyboard: chosen, then the order reversed after looking at it.
  await leaf.nth(0).focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('toolbar').getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Reverse the order' }).click();
  await page.getByRole('button', { name: 'Use this order' }).click();
  await expect.poll(() => order(page)).toEqual([b, a, c]);
  await page.keyboard.press('Escape');
  await page.reload();
  await settled(page, 3);

  // One becomes a document of its own; taken back from there, and done again.
  const first = page.url();
  await leaf.nth(2).focus();
  await page.keyboard.press('x');
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'A new document' }).click();
  await expect(page).not.toHaveURL(first);
  await expect.poll(() => order(page)).toEqual([c]);
  await page.getByLabel('Undo').first().click();
  await page.goto(first);
  await expect.poll(() => order(page)).toEqual([b, a, c]);
  await page.getByLabel('Redo').click();
  await expect.poll(() => order(page)).toEqual([b, a]);

  // The shelf: a folder, filed by menu and by mouse; a tag; the bin and back.
  await page.goto('/');
  const rows = page.getByTestId('document-row');
  await expect(rows).toHaveCount(2);
  await page.getByRole('button', { name: 'New folder' }).click();
  await page.getByRole('textbox', { name: 'Name of the folder' }).fill('Boats');
  await page.keyboard.press('Enter');
  await rows.nth(0).dragTo(page.getByTestId('folder-row'));
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: /^More for \d{4}-/ }).click();
  await page.getByRole('menuitem', { name: 'Tags' }).click();
  await page.getByRole('textbox', { name: 'New tag' }).fill('to pay');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.reload();
  await page.getByRole('button', { name: '# to pay' }).click();
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: '# to pay' }).click();
  await page.getByTestId('folder-row').click();
  await expect(page.getByRole('navigation', { name: 'Where this folder lies' })).toContainText('Boats');
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: /^More for \d{4}-/ }).click();
  await page.getByRole('menuitem', { name: 'Move to the bin' }).click();
  await expect(rows).toHaveCount(0);
  await page.getByRole('link', { name: /^Bin, 1 document/ }).click();
  await page.getByRole('button', { name: /^Restore/ }).click();
  await expect(page.getByText('Nothing is in the bin.', { exact: false })).toBeVisible();
  await page.goto('/');
  await page.getByTestId('folder-row').click();
  await expect(rows).toHaveCount(1);

  // Joined: both lie in one again.
  await page.goto('/');
  await page.getByRole('button', { name: 'This week' }).click();
  await expect(rows).toHaveCount(2);
  await page.getByRole('button', { name: /^More for \d{4}-/ }).first().click(); // prettier-ignore
  await page.getByRole('menuitem', { name: 'Select' }).click();
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Join' }).click();
  await page.getByRole('button', { name: /2 pages/ }).click();
  await expect(page.getByText(/Joined with/)).toBeVisible();
  await expect(rows).toHaveCount(1);
  await rows.first().click();
  await expect.poll(() => order(page)).toEqual([b, a, c]);
  expect(errors).toEqual([]);
});
