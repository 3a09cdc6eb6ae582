import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Browser, type BrowserContext, type Page } from 'playwright-core';
import sharp from 'sharp';
import { random } from '@libretto/demo/scene/noise';
import { served } from './served';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = 4193;
const base = `http://127.0.0.1:${port}`;
const home = mkdtempSync(path.join(tmpdir(), 'libretto-faults-'));
const data = path.join(home, 'data');
const profile = path.join(home, 'profile');
const patienceMs = 60_000;

type Cut = 'kill' | 'tab' | 'quota' | 'server';
type Work = 'take' | 'delete' | 'move' | 'rename' | 'undo' | 'send';

/** What the screen shows of the document, and calls saved. */
interface Shown {
  order: string[];
  name: string;
}

const serve = () => served(port, data);

/** Chromium as a person has it: with a profile that outlives it, and a process of its own that can be killed. */
class Machine {
  private process: ChildProcess | null = null;
  browser!: Browser;

  async start(): Promise<BrowserContext> {
    rmSync(path.join(profile, 'DevToolsActivePort'), { force: true });
    for (const lock of ['SingletonLock', 'SingletonSocket', 'SingletonCookie']) rmSync(path.join(profile, lock), { force: true });
    this.process = spawn(
      '/usr/bin/chromium',
      ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--remote-debugging-port=0', `--user-data-dir=${profile}`, 'about:blank'],
      { stdio: 'ignore', detached: true },
    ); // prettier-ignore
    const told = path.join(profile, 'DevToolsActivePort');
    for (let i = 0; i < 600 && !(existsSync(told) && readFileSync(told, 'utf8').includes('\n')); i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    const [devtools] = readFileSync(told, 'utf8').split('\n');
    this.browser = await chromium.connectOverCDP(`http://127.0.0.1:${devtools}`);
    const context = this.browser.contexts()[0]!;
    await context.route('**/demo/truth.json', (route) => route.abort());
    return context;
  }

  /** As when the battery is taken out: the browser and all of its processes, at once. */
  async kill(): Promise<void> {
    const { pid } = this.process!;
    const gone = new Promise((resolve) => this.process!.once('exit', resolve));
    process.kill(-pid!, 'SIGKILL');
    await gone;
    await this.browser.close().catch(() => {});
  }
}

const leaves = (page: Page) =>
  page.locator('[data-testid="leaf"]').evaluateAll((all) => all.map((leaf) => (leaf as HTMLElement).dataset.page!));
const saved = (page: Page) => page.waitForFunction(() => !document.documentElement.hasAttribute('data-saving'), null, { timeout: patienceMs }); // prettier-ignore
const shown = async (page: Page): Promise<Shown> => ({
  order: await leaves(page),
  name: (await page.getByRole('heading', { level: 1 }).first().textContent()) ?? '',
});

async function openDocument(context: BrowserContext, id: string): Promise<Page> {
  const page = await context.newPage();
  await page.setViewportSize({ width: 390, height: 2600 });
  page.setDefaultTimeout(patienceMs);
  await page.goto(`${base}/document/${id}`);
  await page.getByRole('button', { name: 'Change the name' }).waitFor();
  // What a stop has left is put right behind the first look.
  for (let last = '', same = 0; same < 4; await page.waitForTimeout(120)) {
    const now = JSON.stringify(await shown(page));
    same = now === last ? same + 1 : 0;
    last = now;
  }
  await saved(page);
  return page;
}

/** Files of a name in the stand-in folder, numbered ones too. */
function arrivedFiles(name: string): string[] {
  const folder = path.join(data, 'stand-ins/folder');
  return readdirSync(folder, { recursive: true })
    .map(String)
    .filter((file) => path.basename(file).startsWith(`${name}.pdf`) || path.basename(file).startsWith(`${name} (`));
}

/**
 * Random work in one or two tabs, cut off by killing the browser, closing tabs, filling the disk, or a server that goes away; then it is opened again,
 * and what is there is compared with what the screen had called saved or arrived. Needs the built app.
 */
export async function benchFaults(rounds: number, seed: number): Promise<void> {
  const next = random(seed * 7919);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const count = { rounds: 0, lost: 0, doubled: 0, returned: 0, falsified: 0 };
  const cuts: Record<Cut, number> = { kill: 0, tab: 0, quota: 0, server: 0 };
  const say = (round: number, what: string) => console.log(`\n  round ${round}: ${what}`);
  const photo = (await sharp(path.join(root, 'demo/photos/timber-docket.jpg'))
    .resize(420)
    .jpeg({ quality: 80 })
    .toBuffer()) as Buffer;
  let server = await serve();
  const machine = new Machine();
  let context = await machine.start();
  let number = 0;

  const begin = await context.newPage();
  await begin.goto(`${base}/capture?from=files`);
  const files = (n: number) =>
    Array.from({ length: n }, () => ({ name: `photo-${++number}.jpg`, mimeType: 'image/jpeg', buffer: photo }));
  await begin.getByTestId('file-input').first().setInputFiles(files(3));
  await begin.waitForURL(/\/document\//, { timeout: patienceMs });
  const documentId = new URL(begin.url()).pathname.split('/')[2]!;
  await begin.close();

  /** Every page that was ever shown, and names that were sent and had arrived by the screen. */
  const ever = new Set<string>();
  const arrived = new Set<string>();
  const sent = new Set<string>();

  const works: Record<Work, (page: Page, round: number) => Promise<void>> = {
    take: async (page) => {
      const before = await leaves(page);
      await page.getByTestId('file-input').first().setInputFiles(files(1));
      await page.waitForFunction((n) => document.querySelectorAll('[data-testid="leaf"]').length > n, before.length);
    },
    delete: async (page) => {
      const before = await leaves(page);
      if (before.length < 2) return;
      await page.getByLabel(`More for page ${1 + Math.floor(next() * before.length)}`, { exact: true }).click();
      await page.getByRole('menuitem', { name: 'Delete' }).click();
    },
    move: async (page) => {
      const before = await leaves(page);
      if (before.length < 2) return;
      await page.getByLabel(`More for page ${1 + Math.floor(next() * (before.length - 1))}`, { exact: true }).click();
      await page.getByRole('menuitem', { name: 'Move later' }).click();
    },
    rename: async (page, round) => {
      await page.getByRole('button', { name: 'Change the name' }).click();
      await page.getByLabel('Name of the document').fill(`Round ${seed}-${round}-${Math.floor(next() * 1e6)}`);
      await page.keyboard.press('Enter');
    },
    undo: async (page) => {
      const button = page.getByRole('button', { name: 'Undo' }).first();
      if (await button.isEnabled()) await button.click();
    },
    send: async (page) => {
      const name = (await shown(page)).name;
      // One name, one delivery: what lies in the folder under it is this one's.
      if (sent.has(name) || !name.startsWith('Round')) return;
      await page.getByRole('button', { name: 'Send', exact: true }).click();
      const place = page.getByRole('checkbox', { name: /Yard records/ });
      await place.waitFor();
      if ((await place.getAttribute('aria-checked')) !== 'true') await place.click();
      const press = page.getByRole('button', { name: 'Send to Yard records' });
      await press.waitFor();
      sent.add(name);
      await press.click();
      await page.waitForURL(/outbox/);
      await page
        .getByTestId('delivery-arrived')
        .filter({ hasText: `${name}.pdf` })
        .waitFor();
      arrived.add(name);
      await page.goto(`${base}/document/${documentId}`);
      await page.getByRole('button', { name: 'Change the name' }).waitFor();
    },
  };

  try {
    for (let round = 1; round <= rounds; round++) {
      const tabs = [await openDocument(context, documentId)];
      if (next() < 0.5) tabs.push(await openDocument(context, documentId));
      let known = await shown(tabs[0]!);
      known.order.forEach((id) => ever.add(id));
      const few = 1 + Math.floor(next() * 3);
      for (let i = 0; i < few; i++) {
        const tab = pick(tabs);
        const many = (await leaves(tab)).length > 6;
        await works[many ? 'delete' : pick<Work>(['take', 'delete', 'move', 'rename', 'rename', 'undo', 'send'])](tab, round);
        await saved(tab);
        // The other tab hears of it in its own time; what this one shows is what it calls saved.
        known = await shown(tab);
        known.order.forEach((id) => ever.add(id));
      }
      const cut = pick<Cut>(['kill', 'kill', 'tab', 'tab', 'quota', 'server']);
      cuts[cut]++;
      const work = pick<Work>(['take', 'delete', 'move', 'rename', 'undo', 'send']);
      const tab = pick(tabs);
      const before = known;
      const session = await context.newCDPSession(tab);
      if (cut === 'quota') await session.send('Storage.overrideQuotaForOrigin', { origin: base, quotaSize: 1 });
      const under = works[work](tab, round).catch(() => {});
      const waitMs = next() * (cut === 'quota' || cut === 'server' ? 1500 : 500);
      await new Promise((resolve) => setTimeout(resolve, waitMs));
      // What the screen called saved in the last moment counts too.
      const last = await Promise.race([
        tab
          .evaluate(() => !document.documentElement.hasAttribute('data-saving'))
          .then(async (is) => (is ? await shown(tab) : null)),
        new Promise<null>((resolve) => setTimeout(() => resolve(null), 400)),
      ]).catch(() => null);
      if (last && last.name && last.order.length) last.order.forEach((id) => ever.add(id));
      if (cut === 'kill') {
        await machine.kill();
        await under;
        context = await machine.start();
      } else if (cut === 'server') {
        server.kill('SIGKILL');
        await Promise.race([under, new Promise((resolve) => setTimeout(resolve, 800))]);
        server = await serve();
      } else if (cut === 'quota') {
        await Promise.race([under, new Promise((resolve) => setTimeout(resolve, 2500))]);
        await session.send('Storage.overrideQuotaForOrigin', { origin: base });
      }
      await Promise.all(context.pages().map((page) => page.close({ runBeforeUnload: false }).catch(() => {})));
      if (!context.pages().length) await context.newPage();

      const again = await openDocument(context, documentId);
      const now = await shown(again);
      const touched = work === 'undo' || work === 'delete' ? 1 : 0;
      const missing = before.order.filter((id) => !now.order.includes(id));
      const back = now.order.filter((id) => ever.has(id) && !before.order.includes(id) && !last?.order.includes(id));
      const fresh = now.order.filter((id) => !ever.has(id));
      if (missing.length > touched) {
        count.lost += missing.length - touched;
        say(round, `lost ${missing.length} of ${before.order.length} (${cut} during ${work})`);
      }
      if (back.length > (work === 'undo' ? 1 : 0)) {
        count.returned += back.length;
        say(round, `returned ${back.length} (${cut} during ${work})`);
      }
      if (new Set(now.order).size !== now.order.length || fresh.length > (work === 'take' ? 1 : 0)) {
        count.doubled++;
        say(round, `doubled: ${now.order.length} leaves, ${fresh.length} never seen (${cut} during ${work})`);
      }
      if (now.name !== before.name && work !== 'rename' && work !== 'undo' && now.name !== last?.name) {
        count.falsified++;
        say(round, `named ${now.name} instead of ${before.name} (${cut} during ${work})`);
      }
      for (const name of arrived) {
        const found = arrivedFiles(name).length;
        if (found === 0) {
          count.falsified++;
          say(round, `${name} was called arrived and does not lie there`);
        } else if (found > 1) {
          count.doubled++;
          say(round, `${name} lies there ${found} times`);
        }
        if (found !== 1) arrived.delete(name);
      }
      if (work === 'send' || round % 10 === 0) {
        await again.goto(`${base}/outbox`);
        await again.getByRole('heading', { level: 1 }).waitFor();
        await again.waitForTimeout(400);
        const failed = await again.getByTestId('delivery-failed').allTextContents();
        for (const name of arrived)
          if (failed.some((text) => text.startsWith(`${name}.pdf`))) {
            count.falsified++;
            say(round, `${name} had arrived and is said to have failed`);
          }
      }
      await again.close();
      count.rounds = round;
      process.stdout.write(`\r${round} rounds`);
    }
    // What was on its way arrives in the end, once.
    const end = await context.newPage();
    await end.setViewportSize({ width: 390, height: 2600 });
    await end.goto(`${base}/outbox`);
    await end.waitForFunction(() => !document.querySelector('[data-testid="delivery-sending"], [data-testid="delivery-waiting"]'), null, { timeout: 400_000 }).catch(() => console.log('\n  some deliveries still wait')); // prettier-ignore
    for (const name of sent) if (arrivedFiles(name).length > 1) count.doubled++;
  } finally {
    await machine.kill().catch(() => {});
    server.kill();
    rmSync(home, { recursive: true, force: true });
  }
  console.log(`\ncut off by: ${Object.entries(cuts).map(([cut, n]) => `${cut} ${n}`).join(', ')}; ${sent.size} documents sent, ${arrived.size} called arrived in between`); // prettier-ignore
  console.log(JSON.stringify(count));
}
