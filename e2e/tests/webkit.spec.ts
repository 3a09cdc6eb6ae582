import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test, type WebKitPage } from '../webkit/webkit';
import { smallPhoto } from './walk';

const leaf = { testId: 'leaf' };

async function settled(webkit: WebKitPage, pages: number): Promise<void> {
  await webkit.expects(leaf, pages, 120_000);
  await webkit.expects({ text: /Finding edges/ }, 0, 120_000);
  await expect.poll(() => webkit.pictures('leaf'), { timeout: 120_000 }).toBe(pages);
}

test('WebKit: three photographs, a corner, a filter, a name, a reload, sent to a folder and by mail; a torn file is refused', async ({
  webkit,
}, info) => {
  test.setTimeout(600_000);
  await webkit.goto('/capture?from=files');
  const torn = info.outputPath('torn.jpg');
  writeFileSync(torn, readFileSync(smallPhoto('hull-survey-1')).subarray(0, 60_000));
  await webkit.files({ testId: 'file-input' }, [
    ...['hull-survey-1', 'hull-survey-2', 'mooring-agreement-2'].map(smallPhoto),
    torn,
  ]);
  await settled(webkit, 3);
  await webkit.expects({ text: /torn\.jpg/ }, 1);
  await webkit.press({ role: 'button', name: /^Dismiss$/ });

  await webkit.press(leaf);
  const label = await webkit.attribute({ testId: 'corner-0' }, 'aria-label');
  await webkit.drag({ testId: 'corner-0' }, 8, 11);
  await webkit.expects({ text: /^Edges set by you$/ }, 1);
  expect(await webkit.attribute({ testId: 'corner-0' }, 'aria-label')).not.toBe(label);
  await webkit.press({ role: 'tab', name: /Finish$/ });
  const ink = { role: 'radio', name: /^Ink/ };
  await webkit.press(ink);
  await webkit.reload();
  await expect.poll(() => webkit.attribute(ink, 'aria-checked')).toBe('true');
  await webkit.press({ label: /^To the pages$/ });
  await settled(webkit, 3);

  await webkit.press({ label: /^Change the name$/ });
  await webkit.type({ role: 'textbox' }, 'Überführung Wren', { enter: true });
  await webkit.expects({ role: 'heading', name: /^Überführung Wren$/ }, 1);
  await webkit.press({ role: 'button', name: /Send$/ });
  await webkit.press({ role: 'checkbox', name: /Yard records/ });
  await webkit.press({ role: 'checkbox', name: /Workshop/ });
  await webkit.press({ role: 'button', name: /Send to / });
  await webkit.expects({ testId: 'delivery-arrived' }, 2, 180_000);
  await webkit.reload();
  await webkit.expects({ testId: 'delivery-arrived' }, 2);
  expect(webkit.errors()).toEqual([]);
});

test.describe('in a private window', () => {
  test.use({ isPrivate: true });
  test('WebKit: the demo camera’s first page takes itself, and a reload finds it', async ({ webkit }) => {
    test.setTimeout(400_000);
    await webkit.goto('/capture?camera=stand-in:pile');
    await expect.poll(() => webkit.count({ testId: 'tray-leaf' }), { timeout: 300_000 }).toBeGreaterThan(0);
    await webkit.reload();
    await expect.poll(() => webkit.count({ testId: 'tray-leaf' }), { timeout: 60_000 }).toBeGreaterThan(0);
  });
});
