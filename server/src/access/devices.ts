import { createHash, randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { writePrivately } from './privately';

const deviceSchema = z.object({
  id: z.string(),
  /** What it said it is: "Safari on iPhone". */
  name: z.string(),
  /** SHA-256 of its session's token, base64url: the token itself is nowhere but on the device. */
  token: z.string(),
  pairedAt: z.iso.datetime(),
  seenAt: z.iso.datetime(),
});
export type Device = z.infer<typeof deviceSchema>;

/** A code that pairs one device is good for this long, ms. */
export const codeMs = 10 * 60_000;
/** How exactly it is known when a device was last here, ms: not each request is written down. */
const seenEveryMs = 3_600_000;
const mostDevices = 50;

const hashOf = (secret: string) => createHash('sha256').update(secret).digest('base64url');

/** The devices that may use this server, and the codes by which another one may be paired. */
export class Devices {
  /** Hashes of codes, with the time until which each is good: comparing hashes tells nothing of the code. */
  private readonly codes = new Map<string, number>();
  private writing: Promise<void> = Promise.resolve();

  private constructor(
    private readonly file: string,
    private devices: Device[],
  ) {}

  static async open(file: string): Promise<Devices> {
    const text = await readFile(file, 'utf8').catch(() => null);
    // Who is paired cannot be guessed: with a damaged list all pair again.
    const parsed = text ? z.array(deviceSchema).safeParse(safeJson(text)) : null;
    return new Devices(file, parsed?.success ? parsed.data : []);
  }

  list(): readonly Device[] {
    return this.devices;
  }

  /** A new code for one device. */
  code(nowMs = Date.now()): string {
    for (const [hash, until] of this.codes) if (until < nowMs) this.codes.delete(hash);
    const code = randomBytes(16).toString('base64url');
    this.codes.set(hashOf(code), nowMs + codeMs);
    return code;
  }

  /** Whether a code is good still; looking does not use it up. */
  isGood(code: string, nowMs = Date.now()): boolean {
    return (this.codes.get(hashOf(code)) ?? 0) >= nowMs;
  }

  /** Uses a code up. */
  redeem(code: string, nowMs = Date.now()): boolean {
    const good = this.isGood(code, nowMs);
    this.codes.delete(hashOf(code));
    return good;
  }

  /** Pairs a device. @returns the token of its session. */
  async pair(name: string, nowMs = Date.now()): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    const at = new Date(nowMs).toISOString();
    const device = { id: randomBytes(9).toString('base64url'), name, token: hashOf(token), pairedAt: at, seenAt: at };
    this.devices = [...this.devices, device].slice(-mostDevices);
    await this.write();
    return token;
  }

  /** The device of a token. */
  find(token: string | undefined, nowMs = Date.now()): Device | undefined {
    if (!token) return undefined;
    const hash = hashOf(token);
    const device = this.devices.find((d) => d.token === hash);
    if (device && nowMs - Date.parse(device.seenAt) > seenEveryMs) {
      device.seenAt = new Date(nowMs).toISOString();
      void this.write().catch(() => {});
    }
    return device;
  }

  /** From now on it is a stranger. */
  async remove(id: string): Promise<boolean> {
    const rest = this.devices.filter((d) => d.id !== id);
    if (rest.length === this.devices.length) return false;
    this.devices = rest;
    await this.write();
    return true;
  }

  private write(): Promise<void> {
    this.writing = this.writing.catch(() => {}).then(() => writePrivately(this.file, JSON.stringify(this.devices, null, 1)));
    return this.writing;
  }
}

function safeJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const systems: [RegExp, string][] = [
  [/iPhone/, 'iPhone'],
  [/iPad/, 'iPad'],
  [/Android/, 'Android'],
  [/Mac OS X/, 'Mac'],
  [/Windows/, 'Windows'],
  [/Linux/, 'Linux'],
];
const browsers: [RegExp, string][] = [
  [/Firefox|FxiOS/, 'Firefox'],
  [/Edg/, 'Edge'],
  [/Chrom|CriOS/, 'Chrome'],
  [/Safari/, 'Safari'],
];

/** What a device is called in the list, from what its browser says of itself. */
export function nameOfDevice(userAgent: string | undefined): string {
  const find = (list: [RegExp, string][]) => list.find(([pattern]) => pattern.test(userAgent ?? ''))?.[1];
  return [find(browsers) ?? 'Browser', find(systems)].filter(Boolean).join(' on ');
}
