import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import type { Place, PlaceForm } from '@libretto/model';
import { syncFolder } from '../ledger/fileLedger';
import type { Carrier } from './carrier';
import { carrierOf, placeConfigSchema, publicPlace, type PlaceConfig } from './kinds';
import type { Reach } from './reach';
import { secretsIn, type Secrets } from './secrets';

const bookSchema = z.object({
  v: z.literal(1),
  places: z.array(z.object({ place: placeConfigSchema, sealed: z.string().nullable() })),
});

export interface PlaceBookOptions {
  /** Those of the configuration and the stand-ins: they cannot be changed in the app. */
  fixed: readonly PlaceConfig[];
  dataDir: string;
  /** Where places added in the app may lead. */
  reach: Reach;
}

/** The places that the server delivers to: fixed ones, and those that were added in the app, which are kept in one file with their passwords sealed. */
export class PlaceBook {
  private own = new Map<string, PlaceConfig>();
  private readonly secrets: Secrets;
  private readonly file: string;
  private readonly carriers = new Map<string, Carrier>();
  private writing: Promise<void> = Promise.resolve();

  /** @throws where two have one id, or the file cannot be read: nothing is written over that one. */
  constructor(private readonly options: PlaceBookOptions) {
    this.file = path.join(options.dataDir, 'places.json');
    this.secrets = secretsIn(options.dataDir);
    for (const place of this.read()) this.own.set(place.id, place);
    const all = this.all();
    const twice = all.find(({ id }, i) => all.findIndex((other) => other.id === id) < i);
    if (twice) throw new Error(`Two places have the id “${twice.id}”: one would take the other's deliveries`);
  }

  list(): Place[] {
    return [...this.options.fixed.map((p) => publicPlace(p)), ...[...this.own.values()].map((p) => publicPlace(p, true))];
  }

  find(id: string): PlaceConfig | undefined {
    return this.own.get(id) ?? this.options.fixed.find((p) => p.id === id);
  }
  isOwn(id: string): boolean {
    return this.own.has(id);
  }

  carrier(id: string): Carrier | null {
    const place = this.find(id);
    if (!place) return null;
    let carrier = this.carriers.get(id);
    if (!carrier) this.carriers.set(id, (carrier = carrierOf(place, this.own.has(id) ? this.options.reach : undefined)));
    return carrier;
  }

  /** One that is not kept yet, to be tried. A password that was left out is that of the place with the id. */
  draft(form: PlaceForm, id?: string): Carrier {
    return carrierOf(this.configOf(form, id), this.options.reach);
  }

  /** @throws ZodError where the form does not make a place. */
  async add(form: PlaceForm): Promise<Place> {
    const place = this.configOf(form);
    await this.keep((own) => own.set(place.id, place));
    return publicPlace(place, true);
  }

  async change(id: string, form: PlaceForm): Promise<Place | null> {
    if (!this.own.has(id)) return null;
    const place = this.configOf(form, id);
    await this.keep((own) => own.set(id, place));
    this.carriers.delete(id);
    return publicPlace(place, true);
  }

  async remove(id: string): Promise<boolean> {
    if (!this.own.has(id)) return false;
    await this.keep((own) => own.delete(id));
    this.carriers.delete(id);
    return true;
  }

  private all(): PlaceConfig[] {
    return [...this.options.fixed, ...this.own.values()];
  }

  private configOf({ password, username, ...form }: PlaceForm, id?: string): PlaceConfig {
    const before = id ? this.own.get(id) : undefined;
    const kept = password ?? before?.password;
    const place = placeConfigSchema.parse({ ...form, id: id ?? `p-${randomUUID()}`, ...(username && { username }) });
    return { ...place, ...(username && kept !== undefined && { password: kept }) };
  }

  private read(): PlaceConfig[] {
    let text: string;
    try {
      text = readFileSync(this.file, 'utf8');
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return [];
      throw error;
    }
    try {
      return bookSchema.parse(JSON.parse(text)).places.map(({ place, sealed }) => ({
        ...place,
        ...(sealed !== null && { password: this.secrets.unseal(sealed) }),
      }));
    } catch (error) {
      throw new Error(`${this.file} cannot be read (${(error as Error).message}). With another key than the one it was written with it stays closed: see LIBRETTO_KEY.`); // prettier-ignore
    }
  }

  /** One after the other: what is kept is what was there, changed. */
  private async keep(change: (own: Map<string, PlaceConfig>) => unknown): Promise<void> {
    const write = async () => {
      const own = new Map(this.own);
      change(own);
      const places = [...own.values()].map(({ password, ...place }) => ({
        place,
        sealed: password === undefined ? null : this.secrets.seal(password),
      }));
      await writeFile(`${this.file}.part`, JSON.stringify({ v: 1, places }, null, 1), { flush: true, mode: 0o600 });
      await rename(`${this.file}.part`, this.file);
      await syncFolder(this.options.dataDir);
      this.own = own;
    };
    await (this.writing = this.writing.then(write, write));
  }
}
