import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { folderServer } from '@libretto/server/standins/folderServer';
import { mailbox } from '@libretto/server/standins/mailbox';
import { simpleParser } from 'mailparser';
import { begin, bringIn, smallPhoto } from './walk';

test('a cloud folder and a mail account are added, tried, used with a folder made and addresses typed on the spot, and removed', async ({
  page,
}) => {
  const root = mkdtempSync(path.join(tmpdir(), 'libretto-places-'));
  const login = { username: 'yard', password: 'a secret of the yard' };
  const dav = await folderServer({ root: path.join(root, 'folder'), ...login });
  await dav.listen({ host: '127.0.0.1', port: 0 });
  const smtp = await mailbox({ root: path.join(root, 'mail'), ...login });
  await new Promise<void>((resolve) => smtp.listen(0, '127.0.0.1', () => resolve()));
  const portOf = (server: { address(): unknown }) => (server.address() as AddressInfo).port;
  const fill = async (fields: Record<string, string>) => {
    for (const [label, value] of Object.entries(fields)) await page.getByLabel(label, { exact: true }).fill(value);
  };

  await begin(page, '/places');
  await page.getByRole('button', { name: 'Add a place' }).click();
  await page.getByRole('button', { name: /Cloud folder/ }).click();
  await fill({
    Name: 'Winter store',
    'Address of the folder': `http://127.0.0.1:${portOf(dav.server)}/`,
    'Folder within it': 'Boats',
  });
  await fill({ 'User name': login.username, Password: 'a guess' });
  await page.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByTestId('try')).toContainText('refuses the user name and password');
  await fill({ Password: login.password });
  await page.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByTestId('try')).toContainText('It works');
  await page.getByRole('button', { name: 'Keep this place' }).click();
  await expect(page.getByTestId('place').filter({ hasText: 'Winter store' })).toContainText('Boats');

  await page.getByRole('button', { name: 'Add a place' }).click();
  await page.getByRole('button', { name: /Mail account/ }).click();
  await page.getByRole('button', { name: 'Keep this place' }).click();
  await expect(page.getByText('That is not a mail address.')).toBeVisible();
  await fill({ Name: 'Office mail', 'Sender’s address': 'office@saltmarsh.example.org', 'Mail server': '127.0.0.1' });
  await page.getByRole('switch', { name: 'Encrypted from the start' }).click();
  await fill({ Port: String(portOf(smtp.server)), 'User name': login.username, Password: login.password });
  await page.getByRole('button', { name: 'Keep this place' }).click();
  await expect(page.getByTestId('place').filter({ hasText: 'Office mail' })).toContainText('addresses are typed at sending');
  // A password goes in and never comes out: neither to the browser nor readable onto the disk.
  const told = await page.request.get('/api/places').then((r) => r.text());
  const kept = readFileSync(path.join(process.env.E2E_DATA!, 'places.json'), 'utf8');
  for (const text of [told, kept]) expect(text).not.toContain(login.password);

  await page.goto('/capture?from=files');
  await bringIn(page, [smallPhoto('timber-docket')]);
  const address = page.url();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /Winter store/ }).click();
  await page.getByRole('button', { name: 'Another folder' }).click();
  await page.getByLabel('New folder').fill('Wren');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText('Winter store / Boats / Wren')).toBeVisible();
  await page.getByRole('button', { name: 'Into this folder' }).click();
  await page.getByRole('checkbox', { name: /Office mail/ }).click();
  const press = page.getByRole('button', { name: 'Send to 2 places' });
  await expect(press).toBeDisabled();
  await page.getByLabel('To: addresses').fill('owner@wren.example.org, Claims <claims@marine-mutual.example.com>');
  await page.getByLabel('Copies to').fill('yard@saltmarsh.example.org');
  await page.getByLabel('Subject of the mail').fill('Timber for Wren');
  await press.click();
  await expect(page.getByTestId('delivery-arrived')).toHaveCount(2, { timeout: 60_000 });
  expect(readdirSync(path.join(root, 'folder/Boats/Wren'))).toEqual([expect.stringMatching(/\.pdf$/)]);
  const [letter, ...others] = readdirSync(path.join(root, 'mail')).filter((n) => n.endsWith('.eml'));
  expect(others).toEqual([]);
  const mail = await simpleParser(readFileSync(path.join(root, 'mail', letter!)));
  expect(mail.subject).toBe('Timber for Wren');
  expect([mail.cc].flat()[0]!.text).toBe('yard@saltmarsh.example.org');
  await expect(page.getByTestId('delivery-arrived').filter({ hasText: 'Office mail' })).toContainText(
    'claims@marine-mutual.example.com',
  );

  // What was typed is offered again, and the folder is the one of last time.
  await page.goto(address);
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByText('into Boats / Wren')).toBeVisible();
  await page.getByRole('checkbox', { name: /Office mail/ }).click();
  await page.getByLabel('To: addresses').fill('cla');
  await page.getByRole('button', { name: 'claims@marine-mutual.example.com' }).click();
  await expect(page.getByLabel('To: addresses')).toHaveValue('claims@marine-mutual.example.com, ');

  await page.goto('/places');
  for (const name of ['Winter store', 'Office mail']) {
    await page.getByRole('button', { name: `More for ${name}` }).click();
    await page.getByRole('menuitem', { name: 'Remove' }).click();
    await page.getByRole('alert').getByRole('button', { name: 'Remove' }).click();
    await expect(page.getByTestId('place').filter({ hasText: name })).toHaveCount(0);
  }
  await dav.close();
  await new Promise<void>((resolve) => smtp.close(() => resolve()));
});

test('in German from the settings on, and after a reload', async ({ page }) => {
  await begin(page, '/settings');
  await page.getByRole('radio', { name: 'Deutsch' }).click();
  await expect(page.getByRole('heading', { name: 'Einstellungen' })).toBeVisible();
  await expect(page.locator('html')).toHaveAttribute('lang', 'de');
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Aufnehmen' })).toBeVisible();
  await expect(page.getByPlaceholder('Namen, Wörter, Daten suchen')).toBeVisible();
});
