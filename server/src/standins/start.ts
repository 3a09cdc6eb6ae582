import type { AddressInfo } from 'node:net';
import path from 'node:path';
import type { PlaceConfig } from '../places/kinds';
import { folderServer } from './folderServer';
import { mailbox } from './mailbox';
import { wellBehaved, type Moods } from './moods';

const username = 'yard';
const password = 'stand-in';

export interface StandIns {
  places: PlaceConfig[];
  folder: string;
  mail: string;
  /** How they behave now, to be changed. */
  moods: Moods;
  close(): Promise<void>;
}

/** Starts the stand-in folder and mailbox on loopback; port 0 takes a free one. The places that lead to them are those of the demo's office. */
export async function startStandIns(
  dataDir: string,
  ports: { folder: number; mail: number } = { folder: 0, mail: 0 },
): Promise<StandIns> {
  const folder = path.join(dataDir, 'stand-ins', 'folder');
  const mail = path.join(dataDir, 'stand-ins', 'mail');
  const moods = wellBehaved();
  const dav = await folderServer({ root: folder, username, password, mood: () => moods.folder });
  await dav.listen({ host: '127.0.0.1', port: ports.folder });
  const smtp = await mailbox({ root: mail, username, password, mood: () => moods.mail });
  await new Promise<void>((resolve, reject) => {
    smtp.once('error', reject);
    smtp.listen(ports.mail, '127.0.0.1', () => resolve());
  });
  smtp.on('error', () => {});
  const url = `http://127.0.0.1:${(dav.server.address() as AddressInfo).port}/`;
  const port = (smtp.server.address() as AddressInfo).port;
  const post = {
    kind: 'mail' as const,
    from: 'scans@saltmarsh.example.org',
    host: '127.0.0.1',
    port,
    secure: false,
    username,
    password,
    limit: 20_000_000,
  };
  return {
    folder,
    mail,
    moods,
    places: [
      {
        kind: 'folder',
        id: 'yard-records',
        name: 'Yard records',
        url,
        folder: `Surveys/${new Date().getFullYear()}`,
        username,
        password,
      },
      {
        ...post,
        id: 'owner-and-insurer',
        name: 'Owner and insurer',
        to: ['owner@wren.example.org', 'claims@marine-mutual.example.com'],
      },
      { ...post, id: 'workshop', name: 'Workshop', to: ['workshop@saltmarsh.example.org'] },
    ],
    async close() {
      await dav.close();
      await new Promise<void>((resolve) => smtp.close(() => resolve()));
    },
  };
}
