import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { slipSheet } from '@libretto/model/slip';
import { begin, smallPhoto } from './walk';

const dpi = 200;
const px = (mm: number) => Math.round((mm / 25.4) * dpi);

/** A printed slip on a dark desk, its boxes ticked by pen. */
async function photographed(pdf: string, ticked: readonly number[], dir: string): Promise<string> {
  execFileSync('pdftoppm', ['-r', String(dpi), '-png', '-singlefile', pdf, path.join(dir, 'slip')]);
  const { box, boxY } = slipSheet;
  const pens = ticked.map((i) => `<path d="M${px(box.x + 1.5)} ${px(boxY(i) + 5)} l${px(2.5)} ${px(2.5)} l${px(6)} ${-px(8)}" stroke="#20367c" stroke-width="${px(0.6)}" fill="none"/>`); // prettier-ignore
  const [width, height] = [px(slipSheet.widthMm), px(slipSheet.heightMm)];
  const marked = await sharp(path.join(dir, 'slip.png'))
    .resize(width, height, { fit: 'fill' })
    .composite([{ input: Buffer.from(`<svg width="${width}" height="${height}">${pens.join('')}</svg>`) }])
    .toBuffer();
  const file = path.join(dir, 'slip.jpg');
  const desk = { width: width + 300, height: height + 320, channels: 3 as const, background: '#4a3f36' };
  const laid = await sharp({ create: desk })
    .composite([{ input: marked, left: 140, top: 170 }])
    .png()
    .toBuffer();
  await sharp(laid).rotate(2.5, { background: '#4a3f36' }).blur(0.8).jpeg({ quality: 88 }).toFile(file);
  return file;
}

test('a cover slip is printed, ticked by pen and photographed in front of its page: it names the document, picks the place and is left out', async ({
  page,
}, testInfo) => {
  await page.addInitScript(() => {
    window.print = () => {
      window.top!.document.body.dataset.printed = String(document.images.length);
    };
  });
  await begin(page, '/places', { reads: true });
  await page.getByRole('button', { name: 'Cover slip' }).click();
  const sheet = page.getByRole('dialog', { name: 'Cover slip' });
  await sheet.getByLabel(/Name of the document/).fill('Hull survey Wren');
  await sheet.getByRole('checkbox', { name: /Workshop/ }).click();
  await sheet.getByRole('checkbox', { name: /Yard records/ }).click();
  await expect(sheet.getByRole('switch', { name: 'Boxes to tick by pen' })).toBeChecked();
  await sheet.getByRole('button', { name: 'Print' }).click();
  await expect(page.locator('body')).toHaveAttribute('data-printed', '1');
  const download = page.waitForEvent('download');
  await sheet.getByRole('button', { name: 'Save as PDF' }).click();
  const pdf = testInfo.outputPath('slip.pdf');
  await (await download).saveAs(pdf);
  await sheet.getByRole('button', { name: 'Done' }).click();

  const slip = await photographed(pdf, [1], path.dirname(pdf));
  await page.goto('/capture?from=files');
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles([slip, smallPhoto('timber-docket')]);
  await expect(page.getByRole('heading', { name: 'Hull survey Wren' })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByTestId('leaf')).toHaveCount(1);
  await expect(page.getByText('Goes to Yard records by itself in a minute.')).toBeVisible();
  // It is a step like any other.
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByTestId('leaf')).toHaveCount(2);
});
