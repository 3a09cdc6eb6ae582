import type { NamePattern } from './namePattern';
import type { Folder, ShelfRecord } from './records';

type Folders = ShelfRecord['folders'];

/** Folders that lie in one (null: on the shelf itself), by name. A folder whose own folder is gone lies on the shelf. */
export function foldersIn(folders: Folders, parent: string | null): Folder[] {
  return Object.values(folders)
    .filter((f) => parentOf(folders, f) === parent)
    .sort((a, b) => a.name.localeCompare(b.name));
}

const parentOf = (folders: Folders, { parent }: Folder) => (parent && folders[parent] ? parent : null);

/** The way from the shelf down to a folder, the folder last; empty for the shelf itself, and for a folder that is not there. */
export function pathTo(folders: Folders, id: string | null | undefined): Folder[] {
  const path: Folder[] = [];
  for (let at = id ? folders[id] : undefined; at && !path.includes(at);) {
    path.unshift(at);
    const parent = parentOf(folders, at);
    at = parent ? folders[parent] : undefined;
  }
  return path;
}

/** How names are built in a folder: as it says, or the nearest that it lies in; else as everywhere. */
export const patternIn = (folders: Folders, id: string | null | undefined, everywhere: NamePattern): NamePattern =>
  pathTo(folders, id).findLast((folder) => folder.namePattern)?.namePattern ?? everywhere;

/** A folder and all that lie in it, at any depth. */
export function withinFolder(folders: Folders, id: string): Set<string> {
  return new Set(Object.keys(folders).filter((other) => pathTo(folders, other).some((f) => f.id === id)));
}

/** Whether a folder can be put into another: not into itself, nor into what lies in it. */
export const canLieIn = (folders: Folders, id: string, parent: string | null): boolean =>
  parent === null || (parent in folders && !withinFolder(folders, id).has(parent));

/** All folders with their depth, each after the one that it lies in. */
export function folderTree(folders: Folders, parent: string | null = null, depth = 0): { folder: Folder; depth: number }[] {
  return foldersIn(folders, parent).flatMap((folder) => [{ folder, depth }, ...folderTree(folders, folder.id, depth + 1)]);
}
