import { execFileSync } from 'node:child_process';
import { mkdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { picturesOf, sheetOf } from './sheets';
import { begin, demoSheet, smallPhoto, settled } from './walk';

test('over the running camera: look closely, turn, take again in place, discard and undo', async ({ page }) => {
  test.setTimeout(200_000);
  await begin(page, '/capture?camera=stand-in:pile');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await page.getByTestId('file-input').first().setInputFiles(['hull-survey-1', 'timber-docket'].map(smallPhoto));
  await expect(page.getByTestId('tray-leaf').locator('img')).toHaveCount(2, { timeout: 60_000 });

  await page.getByRole('button', { name: /^Page 2/ }).click();
  await expect(page.getByTestId('page-over')).toBeVisible();
  await expect(page.getByAltText('Page 2, finished')).toBeVisible();
  const width = () => page.getByAltText('Page 2, finished').evaluate((img) => img.getBoundingClientRect().width);
  const whole = await width();
  await page.mouse.move(195, 400);
  await page.mouse.wheel(0, -600);
  await expect.poll(width).toBeGreaterThan(whole * 1.2);
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('heading', { name: /^Page 1/ })).toBeVisible();
  expect(await page.getByTestId('live').evaluate((video) => (video as HTMLVideoElement).paused)).toBe(false);
  await page.getByRole('button', { name: 'Turn' }).click();
  await expect.poll(() => page.getByAltText('Page 1, finished').evaluate((img) => (img as HTMLImageElement).naturalWidth > (img as HTMLImageElement).naturalHeight)).toBe(true); // prettier-ignore

  await page.getByRole('button', { name: 'Retake', exact: true }).click();
  await expect(page.getByRole('meter', { name: 'Whole' })).toHaveAttribute('aria-valuenow', '100', { timeout: 30_000 });
  await page.getByRole('button', { name: 'Retake page 1' }).click();
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(1);
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0, { timeout: 30_000 });
  await expect(page.getByText('Retake page 1')).toHaveCount(0);
  await expect(page.getByTestId('tray-leaf').locator('img')).toHaveCount(2, { timeout: 60_000 });

  await page.getByRole('button', { name: /^Page 2/ }).click();
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByTestId('tray-leaf')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tray-leaf')).toHaveCount(2);
});

/** Two pages by libtiff: A4 at 100 dpi as Group 4 (ITU-T T.6), and A5 lying at 150 dpi in colour as LZW, to be turned. */
async function scanned(folder: string): Promise<string> {
  const sheet = (width: number, height: number) => sharp(demoSheet('hull-survey-1')).resize(width, height, { fit: 'fill' });
  await mkdir(folder, { recursive: true });
  const [a4, a5, both] = ['a4.tif', 'a5.tif', 'scanned.tif'].map((name) => path.join(folder, name)) as [string, string, string];
  await sheet(827, 1169).toColourspace('b-w').threshold(150).tiff({ compression: 'ccittfax4', bitdepth: 1, xres: 100 / 25.4, yres: 100 / 25.4 }).toFile(a4); // prettier-ignore
  await sheet(874, 1240).withMetadata({ orientation: 6 }).tiff({ compression: 'lzw', xres: 150 / 25.4, yres: 150 / 25.4 }).toFile(a5); // prettier-ignore
  execFileSync('tiffcp', [a4, a5, both]);
  return both;
}

test('files, a PDF and a TIFF come in as pages of the run, those of files at their own size', async ({ page }, testInfo) => {
  await begin(page, '/capture');
  const pdf = await PDFDocument.create();
  for (const [w, h] of [
    [595.28, 841.89],
    [612, 1008],
  ] as const) {
    const sheet = pdf.addPage([w, h]);
    sheet.drawText('Mooring berth 12', { x: 60, y: 500, size: 40 });
    sheet.drawText('Il1O0-8BS5', { x: 60, y: 470, size: 5 });
  }
  const locked = Buffer.from('%PDF-1.7\nnothing that could be read');
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles([
      { name: 'mooring.pdf', mimeType: 'application/pdf', buffer: Buffer.from(await pdf.save()) },
      { name: 'torn.pdf', mimeType: 'application/pdf', buffer: locked },
      { name: 'scanned.tif', mimeType: 'image/tiff', buffer: await readFile(await scanned(testInfo.outputPath())) },
      { name: 'torn.tif', mimeType: 'image/tiff', buffer: Buffer.from('II*\0nothing that could be read') },
      { name: 'paint.jpg', mimeType: 'image/jpeg', buffer: await readFile(smallPhoto('paint-chart')) },
    ]);
  await expect(page.getByTestId('tray-leaf').locator('img')).toHaveCount(5, { timeout: 90_000 });
  await expect(page.getByText('torn.pdf: the PDF is damaged')).toBeVisible();
  await expect(page.getByText('torn.tif: the picture is damaged')).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await page.getByRole('button', { name: 'Done · 5' }).click();
  await settled(page, 5);
  await expect(page.getByText(/5 pages · several sizes/)).toBeVisible();
  const pictures = await picturesOf(page, 'leaf');
  const ratios = [210 / 297, 8.5 / 14, 210 / 297, 210 / 148];
  for (const [i, ratio] of ratios.entries()) expect(await sheetSize(pictures[i]!)).toBeCloseTo(ratio, 1);
  // The sheet's title, dark on white, stands where it does on the sheet.
  expect(await sheetOf(pictures[2]!, ['hull-survey-1', 'mooring-agreement-1'])).toBe('hull-survey-1');
  // Its words are those of the file, also where no recogniser could tell the letters apart.
  await page.getByTestId('leaf').first().click();
  await page.getByRole('tab', { name: 'Text' }).click();
  const words = page.getByRole('document', { name: 'The words of the page' });
  await expect(words.getByText('Il1O0-8BS5', { exact: true })).toBeAttached({ timeout: 60_000 });
});

async function sheetSize(picture: Buffer): Promise<number> {
  const { width, height } = await sharp(picture).metadata();
  return width! / height!;
}
