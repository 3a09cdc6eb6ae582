import { expect, test } from '@playwright/test';
import type { Raster } from '@libretto/core';
import { textBend } from '@libretto/core/upright/bend';
import { usualCamera, usualLight } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import sharp from 'sharp';
import { begin, bringIn, demoPhoto, demoSheet, demoTruth, listen, resting, settled, smallPhoto } from './walk';

/** Numbers of a handle's label: where in the photo it is. */
const where = (label: string | null) => label!.match(/-?\d+/g)!.slice(0, 2).map(Number);

test('a blurred photo says so, and taking it again is a tap away; found fine, the doubt goes and comes back with undo', async ({
  page,
}) => {
  const errors = listen(page);
  await begin(page);
  const soft = await sharp(demoPhoto('hull-survey-1')).rotate().resize(2100).blur(7).jpeg({ quality: 90 }).toBuffer();
  await page.getByTestId('file-input').first().setInputFiles([
    { name: 'soft.jpg', mimeType: 'image/jpeg', buffer: soft },
    { name: 'sharp.jpg', mimeType: 'image/jpeg', buffer: await sharp(demoPhoto('hull-survey-2')).rotate().resize(2100).jpeg({ quality: 90 }).toBuffer() },
  ]); // prettier-ignore
  await settled(page, 2);
  await expect(page.getByText('1 of 2 needs attention')).toBeVisible();
  await page.getByRole('button', { name: 'Review pages' }).click();
  await expect(page.getByRole('heading', { name: 'Page 1 of 2' })).toBeVisible();
  await expect(page.getByTestId('check')).toContainText('Blurred');
  await page.getByTestId('check').getByRole('button', { name: 'Retake', exact: true }).click();
  await expect(page).toHaveURL(/capture\?into=.*again=/);
  await page.goBack();
  await page.getByTestId('check').getByRole('button', { name: 'Keep as it is' }).click();
  await expect(page.getByTestId('check')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByTestId('check')).toContainText('Blurred');

  // Finish: six filters on one detail, why Auto picks, a slider, and all pages at once.
  await page.getByRole('tab', { name: 'Finish' }).click();
  await expect(page.getByRole('radio').locator('img')).toHaveCount(6, { timeout: 60_000 });
  await expect(page.getByTestId('why')).toContainText('Auto: Grey, no colour to lose');
  await page.getByRole('radio', { name: /^Even light/ }).click();
  const contrast = page.getByRole('slider', { name: 'Contrast' });
  await contrast.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await expect(contrast).toHaveValue('0.2');
  await page.getByRole('button', { name: 'Use for all 2 pages' }).click();
  await page.getByLabel('Next page').click();
  await expect(page.getByRole('slider', { name: 'Contrast' })).toHaveValue('0.2', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Reset' }).click();
  await expect(page.getByRole('slider', { name: 'Contrast' })).toHaveValue('0');

  // By hand: a stroke fills the print under it with paper, undo brings it back.
  await page.getByRole('button', { name: 'Fill by hand' }).click();
  const leaf = page.getByAltText('The finished page');
  await leaf.scrollIntoViewIfNeeded();
  const box = await resting(leaf);
  const at = (u: number, v: number) => [box.x + u * box.width, box.y + v * box.height] as const;
  const before = await leaf.getAttribute('src');
  await page.mouse.move(...at(0.2, 0.3));
  await page.mouse.down();
  await page.mouse.move(...at(0.8, 0.3), { steps: 6 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Remove strokes' })).toBeVisible();
  await expect.poll(() => leaf.getAttribute('src')).not.toBe(before);
  // The same with keys: the brush begins in the middle.
  await page.getByRole('button', { name: 'Done painting' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('application', { name: /^Brush lifted, 80 across, 30 down/ })).toBeFocused();
  const once = await leaf.getAttribute('src');
  for (const key of ['ArrowDown', 'Space', 'ArrowLeft', 'ArrowLeft', 'Space']) await page.keyboard.press(`Shift+${key}`);
  await expect.poll(() => leaf.getAttribute('src')).not.toBe(once);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByRole('button', { name: 'Remove strokes' })).toHaveCount(0);
  expect(errors).toEqual([]);
});

test('edges set wrongly are found again by a tap on the page, and match the truth; zoomed they can be moved finely', async ({
  page,
}) => {
  const errors = listen(page);
  await begin(page);
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles([demoPhoto('hull-survey-2')]);
  await settled(page, 1);
  await page.getByTestId('leaf').first().click();
  await expect(page.getByText('Edges found')).toBeVisible();
  await page.getByRole('button', { name: 'Whole photo' }).click();
  await expect(page.getByText('The whole photo', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Find here' }).click();
  const stage = await resting(page.getByTestId('edges-stage'));
  await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height / 2);
  await expect(page.getByText('Edges set by you')).toBeVisible({ timeout: 60_000 });
  const { quad, size } = await demoTruth('hull-survey-2');
  /** How far the worst corner lies from its true place, share of the photo's diagonal. */
  const off = async () => {
    const far = quad.map(async (corner, i) => {
      const at = where(await page.getByTestId(`corner-${i}`).getAttribute('aria-label'));
      return Math.hypot(at[0]! - corner[0], at[1]! - corner[1]) / Math.hypot(...size);
    });
    return Math.max(...(await Promise.all(far)));
  };
  expect(await off()).toBeLessThan(0.005);

  // Turned aslant by the slider, and straightened again by the lines of its print.
  const angle = page.getByRole('slider', { name: 'Angle' });
  await angle.focus();
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Find here' }).focus();
  await expect.poll(off).toBeGreaterThan(0.02);
  await page.getByRole('button', { name: 'More ways' }).click();
  await page.getByRole('menuitem', { name: 'Straighten by its lines' }).click();
  await expect.poll(off).toBeLessThan(0.006);

  // The wheel zooms about the pointer: the same way of the mouse is less of the photo then.
  const corner = page.getByTestId('corner-0');
  const step = async (): Promise<number> => {
    const before = where(await corner.getAttribute('aria-label'));
    const box = await resting(corner);
    await page.mouse.move(box.x + 22, box.y + 22);
    await page.mouse.down();
    await page.keyboard.down('Alt');
    await page.mouse.move(box.x + 42, box.y + 22, { steps: 4 });
    await page.mouse.up();
    await page.keyboard.up('Alt');
    await expect.poll(async () => where(await corner.getAttribute('aria-label'))[0]).not.toBe(before[0]);
    return where(await corner.getAttribute('aria-label'))[0]! - before[0]!;
  };
  const coarse = await step();
  const box = await resting(corner);
  await page.mouse.move(box.x + 22, box.y + 22);
  await page.mouse.wheel(0, -500);
  await expect(page.getByLabel('Show the whole photo')).toBeVisible();
  expect(await step()).toBeLessThan(coarse / 2);
  await page.getByLabel('Show the whole photo').click();

  // Split in two and kept together again.
  await page.getByRole('button', { name: 'More ways' }).click();
  await page.getByRole('menuitem', { name: 'Split into two pages' }).click();
  await expect(page.getByRole('heading', { name: 'Page 1 of 2' })).toBeVisible();
  await expect(page.getByLabel('Edges of page 2')).toBeVisible();
  await page.getByRole('button', { name: 'More ways' }).click();
  await page.getByRole('menuitem', { name: 'Join with next page' }).click();
  await expect(page.getByRole('heading', { name: 'Page 1 of 1' })).toBeVisible();
  expect(errors).toEqual([]);
});

test('sides bend by their handles, a pinch zooms, a page is mirrored, and its edges go to another page shot alike after showing it', async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  const page = await context.newPage();
  const errors = listen(page);
  await begin(page);
  const again = await sharp(smallPhoto('mast-step-note')).rotate().modulate({ brightness: 0.9 }).jpeg({ quality: 88 }).toBuffer();
  await bringIn(page, [smallPhoto('mast-step-note')]);
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles([{ name: 'again.jpg', mimeType: 'image/jpeg', buffer: again }]);
  await settled(page, 2);
  await page.getByTestId('leaf').first().click();

  // The note is curled: its sides have handles to bend them by.
  const more = page.getByRole('button', { name: 'More ways' });
  const curve = page.getByTestId('curve-0');
  await expect(curve).toBeVisible();
  const before = where(await curve.getAttribute('aria-label'));
  await curve.focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect.poll(async () => where(await curve.getAttribute('aria-label'))[1]).toBeGreaterThan(before[1]! + 8);
  await expect(page.getByText('Edges set by you')).toBeVisible();

  // Two fingers apart: nearer; the button leads back.
  const stage = await resting(page.getByTestId('edges-stage'));
  const cdp = await context.newCDPSession(page);
  const fingers = (gap: number) =>
    [-1, 1].map((k, id) => ({ x: stage.x + stage.width / 2 + k * gap, y: stage.y + stage.height * 0.45, id }));
  await cdp.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(20) });
  for (let gap = 30; gap <= 90; gap += 10)
    await cdp.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(gap) });
  await cdp.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await page.getByLabel('Show the whole photo').click();
  await expect(page.getByLabel('Show the whole photo')).toHaveCount(0);

  const preview = page.getByRole('img', { name: 'Preview of the finished page' }).locator('img').or(page.locator('img[alt="Preview of the finished page"]')).first(); // prettier-ignore
  const unmirrored = await preview.getAttribute('src');
  await more.click();
  await page.getByRole('menuitem', { name: 'Mirror' }).click();
  await expect.poll(() => preview.getAttribute('src')).not.toBe(unmirrored);
  await page.getByRole('button', { name: 'Undo' }).first().click();

  // A corner set by hand, and the same for the other page.
  const corner = page.getByTestId('corner-0');
  await corner.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.getByTestId('corner-2').focus();
  const set = where(await corner.getAttribute('aria-label'));
  await more.click();
  await page.getByRole('menuitem', { name: 'Same edges for 1 more page' }).click();
  await expect(page.getByText('Same edges for these pages?')).toBeVisible();
  await page.getByRole('button', { name: 'Use for 1' }).click();
  await page.getByLabel('Next page').click();
  await expect.poll(async () => where(await page.getByTestId('corner-0').getAttribute('aria-label'))).toEqual(set);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(async () => where(await page.getByTestId('corner-0').getAttribute('aria-label'))).not.toEqual(set);
  expect(errors).toEqual([]);
  await context.close();
});

test('a curled page photographed closer than its edges comes out with straight lines', async ({ page }) => {
  const { data, info } = await sharp(demoSheet('hull-survey-2')).removeAlpha().raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
  const picture: Raster = { width: info.width, height: info.height, channels: 3, data };
  const sheet = { id: 'hull-survey-2', picture, widthMm: 210, heightMm: 297, xMm: 0, yMm: 0, angle: 0, bend: { kind: 'curl', heightMm: 35 } } as const; // prettier-ignore
  const camera = { ...usualCamera, distance: 0.6 * 370 * usualCamera.focal, tilt: 16, azimuth: 90 };
  const { photo } = photograph({ desk: 'oak', sheets: [sheet], camera, light: usualLight, noise: 3, seed: 4 }, 1500, 2000);
  const buffer = await sharp(photo.data, { raw: { width: 1500, height: 2000, channels: photo.channels } }).jpeg({ quality: 92 }).toBuffer(); // prettier-ignore
  const before = textBend(photo)!.most;
  expect(before).toBeGreaterThan(0.01);

  await begin(page);
  await page.getByTestId('file-input').first().setInputFiles({ name: 'close.jpg', mimeType: 'image/jpeg', buffer });
  await settled(page, 1);
  await page.getByTestId('leaf').first().click();
  await expect(page.getByText('The whole photo', { exact: true })).toBeVisible();
  const shown = page.getByLabel('Preview of the finished page').locator('img');
  const after = async () => {
    const bytes = await shown.evaluate(async (image) => {
      const blob = await (await fetch((image as HTMLImageElement).src)).blob();
      return [...new Uint8Array(await blob.arrayBuffer())];
    });
    const flat = await sharp(Buffer.from(bytes)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    return textBend({ width: flat.info.width, height: flat.info.height, channels: 3, data: flat.data })?.most ?? 1;
  };
  await expect.poll(after).toBeLessThan(before / 2);
});
