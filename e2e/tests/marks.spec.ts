import { expect, test } from '@playwright/test';
import { begin, bringIn, listen, resting, smallPhoto } from './walk';

test('a signature drawn once is stamped, an arrow drawn, a part of the page moved; taken back, brought again, there after a reload', async ({
  page,
}) => {
  const errors = listen(page);
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  await page.getByTestId('leaf').first().click();
  await page.getByRole('tab', { name: 'Marks' }).click();
  const stage = page.locator('[data-testid=marks-stage][aria-busy=false] canvas');
  const marks = (text: string) => expect(page.getByText(text, { exact: true })).toBeVisible();
  const drag = async (from: readonly [number, number], to: readonly [number, number], on = stage) => {
    const { x, y, width, height } = await resting(on);
    await page.mouse.move(x + width * from[0], y + height * from[1]);
    await page.mouse.down();
    await page.mouse.move(x + width * to[0], y + height * to[1], { steps: 6 });
    await page.mouse.up();
  };
  await expect(stage).toBeVisible({ timeout: 60_000 });

  await page.getByRole('radio', { name: 'Note' }).click();
  await page.getByRole('radio', { name: 'Signature' }).click();
  await drag([0.1, 0.7], [0.8, 0.3], page.getByTestId('signature'));
  await page.getByRole('button', { name: 'Keep it' }).click();
  const sign = async (at: readonly [number, number]) => {
    const { x, y, width, height } = await resting(stage);
    await page.mouse.click(x + width * at[0], y + height * at[1]);
  };
  await sign([0.3, 0.85]);
  await marks('1 mark');

  await page.getByRole('radio', { name: 'Shapes' }).click();
  await page.getByRole('radio', { name: 'Arrow' }).click();
  await drag([0.2, 0.7], [0.6, 0.75]);
  await marks('2 marks');

  await page.getByRole('radio', { name: 'Cover' }).click();
  await page.getByRole('radio', { name: 'Move this' }).click();
  await drag([0.05, 0.04], [0.6, 0.2]);
  await drag([0.3, 0.12], [0.4, 0.5]);
  await expect(page.getByText(/^3 marks/)).toBeVisible();

  // All of it is taken back, and brought again, by keys alone.
  for (let i = 0; i < 8 && !(await page.getByText('No marks yet').isVisible()); i++) {
    await page.keyboard.press('Control+z');
    await page.waitForTimeout(150);
  }
  await marks('No marks yet');
  for (let i = 0; i < 8; i++) {
    await page.keyboard.press('Control+Shift+z');
    await page.waitForTimeout(150);
  }
  await expect(page.getByText(/^3 marks/)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/^3 marks/)).toBeVisible({ timeout: 60_000 });

  // The signature is kept: another page takes it with a tap. An arrow that is tapped goes.
  await page.getByRole('radio', { name: 'Note' }).click();
  await page.getByRole('radio', { name: 'Signature' }).click();
  await sign([0.6, 0.9]);
  await expect(page.getByText(/^4 marks/)).toBeVisible();
  await page.getByRole('radio', { name: 'Select' }).click();
  await sign([0.4, 0.725]);
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText(/^3 marks/)).toBeVisible();
  expect(errors).toEqual([]);
});
