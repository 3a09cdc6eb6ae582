import { randomBytes, randomInt, scrypt, timingSafeEqual } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { writePrivately } from './privately';

const derive = promisify(scrypt) as (
  phrase: string,
  salt: Buffer,
  length: number,
  options: { N: number; r: number; p: number; maxmem: number },
) => Promise<Buffer>;

/** OWASP Password Storage Cheat Sheet, scrypt: N = 2^16, r = 8, p = 2 (from memory). 64 MB and about a quarter of a second each. */
const cost = { N: 2 ** 16, r: 8, p: 2, maxmem: 2 ** 27 };
const hashBytes = 32;
/** Without letters and digits that are taken for one another. */
const alphabet = 'abcdefghjkmnpqrstuvwxyz23456789';
/** So many may wait to be looked at; further ones are turned away. */
const mostWaiting = 4;

/** Case and the spaces and hyphens between groups do not matter to whoever types it on a phone. */
const plain = (phrase: string) =>
  phrase
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[\s-]+/g, '');

/** The pass phrase of a server that is open to its network: kept as a scrypt hash. */
export class PassPhrase {
  private turn: Promise<unknown> = Promise.resolve();
  private waiting = 0;

  private constructor(
    private readonly salt: Buffer,
    private readonly hash: Buffer,
  ) {}

  /**
   * That of the file; a new one where there is none, or where one is given.
   *
   * @returns `made`: the phrase itself, to be printed once, if it has been made up now.
   * @throws Error when a given one is shorter than eight characters.
   */
  static async open(file: string, given?: string): Promise<{ phrase: PassPhrase; made: string | null }> {
    if (given !== undefined && plain(given).length < 8) throw new Error('LIBRETTO_PASS_PHRASE must have at least 8 characters');
    const stored = await readFile(file, 'utf8').catch(() => null);
    if (stored) {
      const [salt, hash] = stored
        .trim()
        .split(':')
        .map((part) => Buffer.from(part, 'base64'));
      if (salt?.length && hash?.length === hashBytes) {
        const phrase = new PassPhrase(salt, hash);
        if (given === undefined || (await phrase.fits(given))) return { phrase, made: null };
      } else if (given === undefined) throw new Error(`${file} is damaged: remove it, and a new pass phrase is made`);
    }
    const wanted = given ?? Array.from({ length: 4 }, () => groupOf(4)).join('-');
    const salt = randomBytes(16);
    const hash = await derive(plain(wanted), salt, hashBytes, cost);
    await writePrivately(file, `${salt.toString('base64')}:${hash.toString('base64')}\n`);
    return { phrase: new PassPhrase(salt, hash), made: given === undefined ? wanted : null };
  }

  /** Whether it is this one. One is looked at at a time, so that guessing is slow whoever guesses; null when too many wait already. */
  async check(phrase: string): Promise<boolean | null> {
    if (this.waiting >= mostWaiting) return null;
    this.waiting++;
    const mine = this.turn.then(() => this.fits(phrase));
    this.turn = mine.catch(() => {});
    return mine.finally(() => this.waiting--);
  }

  private async fits(phrase: string): Promise<boolean> {
    return timingSafeEqual(await derive(plain(phrase).slice(0, 200), this.salt, hashBytes, cost), this.hash);
  }
}

const groupOf = (length: number) => Array.from({ length }, () => alphabet[randomInt(alphabet.length)]).join('');
