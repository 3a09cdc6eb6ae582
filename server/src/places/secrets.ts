import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { chmodSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** Encrypts and decrypts passwords that lie on the disk (AES-256-GCM, NIST SP 800-38D). */
export interface Secrets {
  seal(text: string): string;
  /** @throws where it was sealed with another key or changed. */
  unseal(sealed: string): string;
}

/** With the key of the environment, or one that is made at first use and kept beside the data, readable by its owner only. */
export function secretsIn(dataDir: string, given = process.env.LIBRETTO_KEY): Secrets {
  const key = given ? createHash('sha256').update(given).digest() : ownKey(path.join(dataDir, 'places.key'));
  return {
    seal(text) {
      const iv = randomBytes(12);
      const cipher = createCipheriv('aes-256-gcm', key, iv);
      const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([iv, cipher.getAuthTag(), body]).toString('base64');
    },
    unseal(sealed) {
      const all = Buffer.from(sealed, 'base64');
      const decipher = createDecipheriv('aes-256-gcm', key, all.subarray(0, 12));
      decipher.setAuthTag(all.subarray(12, 28));
      return Buffer.concat([decipher.update(all.subarray(28)), decipher.final()]).toString('utf8');
    },
  };
}

function ownKey(file: string): Buffer {
  mkdirSync(path.dirname(file), { recursive: true });
  try {
    writeFileSync(file, randomBytes(32), { flag: 'wx', mode: 0o600 });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  chmodSync(file, 0o600);
  return readFileSync(file);
}
