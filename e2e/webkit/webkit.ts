import { spawn, type ChildProcess } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { test as base, expect } from '@playwright/test';
import { Builder, Capabilities, Key, type WebDriver, type WebElement } from 'selenium-webdriver';

const queries = readFileSync(
  createRequire(import.meta.url).resolve('@testing-library/dom/dist/@testing-library/dom.umd.js'),
  'utf8',
);
/** The longest that anything is waited for, ms. */
const patienceMs = 60_000;

/** How something is found: by its role and name, its label, its text, or its test id. */
export type By = { role: string; name?: RegExp } | { label: RegExp } | { text: RegExp } | { testId: string };

/**
 * A page in Debian's WebKitGTK under Xvfb, driven through WebKitWebDriver: WebKit's own, which Playwright does not drive. What is on the page is found anew at each try.
 */
export class WebKitPage {
  private constructor(
    private readonly driver: WebDriver,
    private readonly processes: readonly ChildProcess[],
    private readonly profile: string,
    private readonly baseURL: string,
  ) {}

  static async open(baseURL: string, isPrivate: boolean): Promise<WebKitPage> {
    const profile = mkdtempSync(path.join(tmpdir(), 'libretto-webkit-'));
    const screen = spawn('Xvfb', ['-displayfd', '3', '-screen', '0', '390x844x24', '-nolisten', 'tcp'], {
      stdio: ['ignore', 'ignore', 'ignore', 'pipe'],
    });
    const display = await new Promise<string>((resolve, reject) => {
      screen.stdio[3]!.once('data', (data: Buffer) => resolve(String(data).trim()));
      screen.once('error', reject);
      screen.once('exit', () => reject(new Error('Xvfb did not start')));
    });
    const port = await freePort();
    const console = openSync(path.join(profile, 'console'), 'a');
    const service = spawn('WebKitWebDriver', [`--port=${port}`], {
      stdio: ['ignore', console, console],
      env: {
        ...process.env,
        DISPLAY: `:${display}`,
        GDK_BACKEND: 'x11',
        WK_PROFILE: profile,
        WK_PRIVATE: isPrivate ? '1' : '0',
        WEBKIT_DISABLE_COMPOSITING_MODE: '1',
        // Its sandbox needs namespaces that root in a container does not have.
        WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS: '1',
        NO_AT_BRIDGE: '1',
      },
    });
    const address = `http://127.0.0.1:${port}`;
    for (const began = Date.now(); ; await sleep(100)) {
      if (await fetch(`${address}/status`).then((r) => r.ok, () => false)) break; // prettier-ignore
      if (Date.now() - began > patienceMs) throw new Error('WebKitWebDriver did not start');
    }
    const driver = await new Builder()
      .usingServer(address)
      .withCapabilities(
        new Capabilities({
          browserName: 'MiniBrowser',
          'webkitgtk:browserOptions': { binary: path.join(import.meta.dirname, 'browser.py'), args: [] },
        }),
      )
      .build();
    await driver.manage().setTimeouts({ script: patienceMs, pageLoad: patienceMs, implicit: 0 });
    return new WebKitPage(driver, [service, screen], profile, baseURL);
  }

  async end(): Promise<void> {
    await Promise.race([this.driver.quit().catch(() => {}), sleep(5000)]);
    for (const one of this.processes) one.kill('SIGKILL');
    rmSync(this.profile, { recursive: true, force: true, maxRetries: 5 });
  }

  goto(address: string): Promise<void> {
    return this.driver.get(new URL(address, this.baseURL).href);
  }
  reload(): Promise<void> {
    return this.driver.navigate().refresh();
  }

  /** What the page itself complained of; what a reload cut off is none of it. */
  errors(): string[] {
    return readFileSync(path.join(this.profile, 'console'), 'utf8')
      .split('\n')
      .filter(
        (line) => /CONSOLE.*ERROR/.test(line) && !/access control checks|useNativeDriver|Failed to load resource/.test(line),
      );
  }

  /** All that can be found so, hidden parts left out. */
  async all(by: By): Promise<WebElement[]> {
    if (!(await this.driver.executeScript<boolean>('return "TestingLibraryDom" in window')))
      await this.driver.executeScript(queries);
    const source = (r: RegExp | undefined) => r && [r.source, r.flags];
    const wanted = { ...by, name: source('name' in by ? by.name : undefined), label: source('label' in by ? by.label : undefined), text: source('text' in by ? by.text : undefined) }; // prettier-ignore
    return this.driver.executeScript<WebElement[]>(
      `const [by] = arguments, lib = window.TestingLibraryDom, on = document.body;
       const re = (s) => s && new RegExp(s[0], s[1]);
       if (by.testId) return [...document.querySelectorAll('[data-testid="' + by.testId + '"]')];
       if (by.role) return lib.queryAllByRole(on, by.role, by.name ? { name: re(by.name) } : {});
       if (by.label) return lib.queryAllByLabelText(on, re(by.label));
       return lib.queryAllByText(on, re(by.text));`,
      wanted,
    );
  }
  async count(by: By): Promise<number> {
    return (await this.all(by)).length;
  }
  /** How many pictures are shown within the parts of a test id. */
  pictures(testId: string): Promise<number> {
    return this.driver.executeScript(
      `return document.querySelectorAll('[data-testid="' + arguments[0] + '"] img').length`,
      testId,
    );
  }
  /** Waits until so many are there. */
  async expects(by: By, count: number, timeout = patienceMs): Promise<void> {
    await expect.poll(() => this.count(by), { timeout, message: JSON.stringify(by, (_, v: unknown) => (v instanceof RegExp ? String(v) : v)) }).toBe(count); // prettier-ignore
  }

  /** Finds and acts until it succeeds: React draws anew, and what was found is gone. */
  private async act<T>(by: By, what: (element: WebElement) => Promise<T>): Promise<T> {
    for (const began = Date.now(); ; await sleep(100)) {
      try {
        const [first] = await this.all(by);
        if (first) return await what(first);
      } catch (error) {
        if (Date.now() - began > patienceMs) throw error;
      }
      if (Date.now() - began > patienceMs) throw new Error(`Not found: ${JSON.stringify(by)}`);
    }
  }
  press(by: By): Promise<void> {
    return this.act(by, (element) => element.click());
  }
  attribute(by: By, name: string): Promise<string | null> {
    return this.act(by, (element) => element.getAttribute(name));
  }
  files(by: By, paths: readonly string[]): Promise<void> {
    return this.act(by, (element) => element.sendKeys(paths.join('\n')));
  }
  /** What stands in a field is replaced: clearing it would blur it. */
  type(by: By, text: string, { enter = false } = {}): Promise<void> {
    return this.act(by, async (element) => {
      await this.driver.executeScript('arguments[0].focus(); arguments[0].select()', element);
      await element.sendKeys(text, ...(enter ? [Key.ENTER] : []));
    });
  }
  drag(by: By, dx: number, dy: number): Promise<void> {
    return this.act(by, async (element) => {
      // A picture that comes in late lays the screen out anew: it is taken hold of once it has stayed where it is.
      for (let last = '', still = 0; still < 3; await sleep(60)) {
        const now = JSON.stringify(await element.getRect());
        still = now === last ? still + 1 : 0;
        last = now;
      }
      await this.driver
        .actions()
        .move({ origin: element })
        .press()
        .move({ origin: element, x: dx, y: dy, duration: 60 })
        .release()
        .perform();
    });
  }

  /** A picture of the window (the driver's own way hangs on some pages). */
  async picture(file: string): Promise<void> {
    const shot = path.join(this.profile, 'shot.png');
    rmSync(shot, { force: true });
    process.kill(Number(readFileSync(path.join(this.profile, 'pid'), 'utf8')), 'SIGUSR1');
    for (const began = Date.now(); !existsSync(shot) && Date.now() - began < 10_000;) await sleep(100);
    copyFileSync(shot, file);
  }
}

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

/** Playwright's runner holds WebKit as a fixture. */
export const test = base.extend<{ webkit: WebKitPage; isPrivate: boolean }>({
  isPrivate: [false, { option: true }],
  webkit: async ({ baseURL, isPrivate }, give, info) => {
    const page = await WebKitPage.open(baseURL!, isPrivate);
    try {
      await give(page);
      if (info.status !== info.expectedStatus) await page.picture(info.outputPath('webkit.png')).catch(() => {});
    } finally {
      await page.end();
    }
  },
});
export { expect };
