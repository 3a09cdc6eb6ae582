import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { begin, bringIn, demoPhoto, listen, resting, settled, smallPhoto } from './walk';

const folder = mkdtempSync(path.join(tmpdir(), 'libretto-files-'));
const write = (name: string, content: string | Buffer) => {
  const file = path.join(folder, name);
  writeFileSync(file, content);
  return file;
};

test('files that cannot be used are named with the reason, the others go on', async ({ page }) => {
  const whole = readFileSync(demoPhoto('timber-docket'));
  await begin(page);
  await bringIn(
    page,
    [
      write('notes.txt', 'hello'),
      write('torn.jpg', whole.subarray(0, 900)),
      write('empty.png', ''),
      write('form.pdf', '%PDF-1.7'),
      demoPhoto('timber-docket'),
    ],
    1,
  );
  const words = page.getByText(/notes\.txt/);
  await expect(words).toContainText('notes.txt: it is not a JPEG, PNG or WebP picture');
  await expect(words).toContainText('torn.jpg: the picture is damaged');
  await expect(words).toContainText('empty.png: it is empty');
  await expect(words).toContainText('form.pdf: the PDF is damaged');
});

test('PNG, WebP, an EXIF turn and 48 megapixels all become pages', async ({ page }) => {
  const errors = listen(page);
  const small = sharp(demoPhoto('timber-docket')).resize(1200);
  const png = write('docket.png', await small.clone().png().toBuffer());
  const webp = write('docket.webp', await small.clone().webp().toBuffer());
  const turned = write('turned.jpg', await small.clone().rotate(90).withMetadata({ orientation: 8 }).jpeg().toBuffer());
  const huge = write('huge.jpg', await sharp(demoPhoto('timber-docket')).resize(8000, 6000).jpeg({ quality: 70 }).toBuffer());
  await begin(page);
  await bringIn(page, [png, webp, turned, huge]);
  for (let i = 0; i < 4; i++) {
    await page.getByTestId('leaf').nth(i).click();
    await expect(page.getByText('Edges found')).toBeVisible();
    // 297 × 210 mm lying: landscape, so the turn was applied.
    await expect(page.getByTestId('page-size')).toContainText('297 × 210 mm', { timeout: 60_000 });
    await page.getByLabel('To the pages').click();
  }
  expect(errors).toEqual([]);
});

test('four cards in one photo are four pages in reading order, an open book is two', async ({ page }) => {
  await begin(page);
  await bringIn(page, [smallPhoto('suppliers-cards')], 4);
  await expect(page.getByText('4 pages · Business card')).toBeVisible();
  await page.goto('/capture?from=files');
  await bringIn(page, [smallPhoto('engine-handbook')], 2);
});

test('the tab is closed in the middle of bringing in: every page that was shown is there again', async ({ context }) => {
  const page = await context.newPage();
  await begin(page);
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles(['hull-survey-1', 'hull-survey-2', 'hull-survey-3', 'paint-chart'].map(smallPhoto));
  await expect(page.getByTestId('leaf').first()).toBeVisible({ timeout: 60_000 });
  const shown = await page.getByTestId('leaf').count();
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await begin(again, '/');
  await again.getByTestId('document-row').first().click();
  await expect.poll(() => again.getByTestId('leaf').count()).toBeGreaterThanOrEqual(shown);
  await settled(again, await again.getByTestId('leaf').count());
});

test('a blank desk is not silently made into a page: it says so and offers the whole photo', async ({ page }) => {
  const desk = write(
    'desk.jpg',
    await sharp(demoPhoto('job-board')).extract({ left: 0, top: 0, width: 700, height: 560 }).jpeg().toBuffer(),
  );
  await begin(page);
  await bringIn(page, [desk]);
  await expect(page.getByText('No page found')).toBeVisible();
  await page.getByRole('button', { name: 'Review pages' }).click();
  await expect(page.getByTestId('check')).toContainText('No page found');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('No page found')).toHaveCount(0);
});

test('photographs are dropped and pasted', async ({ page }) => {
  await begin(page);
  const bytes = readFileSync(demoPhoto('timber-docket')).toString('base64');
  const transfer = await page.evaluateHandle((base64) => {
    const data = new DataTransfer();
    data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], 'docket.jpg', { type: 'image/jpeg' }));
    return data;
  }, bytes);
  await page.getByText('Each photograph becomes a page').dispatchEvent('drop', { dataTransfer: transfer });
  await settled(page, 1);
  await page.evaluate(
    (data) => window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data as DataTransfer })),
    transfer,
  );
  await settled(page, 2);
});

test('a finger drags a corner, with the spot magnified', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  const page = await context.newPage();
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  await page.getByTestId('leaf').tap();
  const handle = page.getByTestId('corner-2');
  await expect(handle).toBeVisible();
  const before = await handle.getAttribute('aria-label');
  const box = await resting(handle);
  const cdp = await context.newCDPSession(page);
  const at = (dx: number, dy: number) => [{ x: box.x + 22 + dx, y: box.y + 22 + dy }];
  await cdp.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(0, 0) });
  for (let i = 1; i <= 5; i++) await cdp.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(-3 * i, -4 * i) });
  await expect(page.getByTestId('loupe')).toBeVisible();
  await cdp.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByText('Edges set by you')).toBeVisible();
  expect(await handle.getAttribute('aria-label')).not.toBe(before);
  await context.close();
});
