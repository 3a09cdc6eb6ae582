import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { defineConfig } from '@playwright/test';

const port = Number(process.env.E2E_PORT ?? 4187);
// The config is read again in each worker process; the first reading decides.
process.env.E2E_DATA ??= mkdtempSync(path.join(tmpdir(), 'libretto-e2e-'));
// Places that a test adds lie on this machine.
process.env.E2E_CONFIG = path.join(process.env.E2E_DATA, 'config.json');
writeFileSync(process.env.E2E_CONFIG, JSON.stringify({ privatePlaces: true }));
process.env.E2E_FILM = path.join(process.env.E2E_DATA, 'film.mjpeg');

const chromium = (...more: string[]) => ({
  executablePath: '/usr/bin/chromium',
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    ...more,
  ],
});

/** A camera that plays the film of the demo's pile. */
const filmedCamera = chromium(
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  `--use-file-for-fake-video-capture=${process.env.E2E_FILM}`,
);

export default defineConfig({
  testDir: './tests',
  outputDir: './test-results',
  globalSetup: './film.ts',
  workers: 2,
  // A retry hides a fault: here there is none. CI, on a machine of whatever speed, has two, and lists what needed them as flaky.
  retries: process.env.CI ? 2 : 0,
  timeout: 180_000,
  expect: { timeout: 30_000 },
  reporter: [['list']],
  // A service worker would answer before the tests' own routes; offline.spec.ts lets it in.
  // What cannot be done says so long before the test's own time is over.
  use: {
    actionTimeout: 90_000,
    serviceWorkers: 'block',
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 390, height: 844 },
  },
  projects: [
    {
      name: 'without camera',
      testIgnore: ['**/camera.spec.ts', '**/byhand.spec.ts', '**/refused.spec.ts', '**/firefox.spec.ts', '**/webkit.spec.ts'],
      fullyParallel: true,
      use: { launchOptions: chromium() },
    },
    // Stock Firefox over WebDriver BiDi; see firefox-bidi.cjs.
    {
      name: 'firefox',
      testMatch: '**/firefox.spec.ts',
      use: {
        browserName: 'firefox',
        channel: 'moz-firefox',
        launchOptions: { executablePath: path.join(import.meta.dirname, 'firefox-bidi.cjs') },
      },
    },
    // Debian's WebKitGTK through WebKitWebDriver; see webkit/webkit.ts. It starts its own browser.
    { name: 'webkit', testMatch: '**/webkit.spec.ts' },
    {
      name: 'camera refused',
      testMatch: '**/refused.spec.ts',
      use: { launchOptions: chromium('--use-fake-device-for-media-stream', '--deny-permission-prompts') },
    },
    { name: 'camera by hand', testMatch: '**/byhand.spec.ts', use: { launchOptions: filmedCamera } },
    // A film goes by the clock, while the stand-in camera waits for the shutter: alone, when nothing else goes on.
    {
      name: 'with camera',
      testMatch: '**/camera.spec.ts',
      dependencies: ['without camera', 'camera refused', 'camera by hand', 'firefox', 'webkit'],
      workers: 1,
      use: { launchOptions: filmedCamera },
    },
  ],
  webServer: {
    command: 'node --import tsx server/src/main.ts',
    cwd: path.join(import.meta.dirname, '..'),
    url: `http://127.0.0.1:${port}/api/health`,
    env: { PORT: String(port), LIBRETTO_DATA: process.env.E2E_DATA, LIBRETTO_CONFIG: process.env.E2E_CONFIG },
    reuseExistingServer: false,
    timeout: 30_000,
  },
});
