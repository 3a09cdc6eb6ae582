// Writes src/ui/iconPaths.ts and moreIconPaths.ts: the outlines of the icons that are used, out of the seven thousand of @mdi/js; in the first of them those that the code of the first
// screen names. Run by hand when a name is added, or comes to be used there; `icons.test.tsx` says when.
import { writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { namedAtFirst } from './first-screen.mjs';

const mdi = createRequire(import.meta.url)('@mdi/js');

const names = `alert-circle-outline angle-acute arrow-left arrow-right auto-fix book-open-page-variant-outline bookshelf camera camera-outline
camera-plus-outline card-account-details-outline camera-retake-outline camera-switch-outline cellphone-arrow-down cellphone-link printer-outline cog-outline check check-decagram-outline
checkbox-blank-outline checkbox-marked checkbox-multiple-outline chevron-left chevron-right close cloud-outline content-copy crop cursor-default-outline drag-horizontal-variant
delete-outline draw-pen dots-horizontal dots-vertical email-outline eye-off-outline eye-outline file-move-outline fit-to-screen-outline flashlight flashlight-off flip-horizontal folder-outline folder-plus-outline
format-color-fill format-text grid grid-off hand-back-right-off-outline hand-back-right-outline image-broken-variant image-multiple-outline image-plus
keyboard-outline magnify marker minus-box pencil open-in-new pail-outline plus redo rotate-right send set-merge sort swap-vertical table tag-outline tray-alert tray-arrow-up undo update vector-curve vector-line vector-square`;

const keyOf = (name) => `mdi${name.replace(/(^|-)\w/g, (m) => m.at(-1).toUpperCase())}`;
const write = (file, constant, about, wanted) => {
  const lines = wanted.map((name) => {
    const path = mdi[keyOf(name)];
    if (!path) throw new Error(`There is no icon ${name}`);
    return `  '${name}': '${path}',`;
  });
  writeFileSync(
    new URL(`../src/ui/${file}.ts`, import.meta.url),
    `/* Material Design Icons (Pictogrammers, Apache 2.0), from @mdi/js by scripts/make-icons.mjs${about}. */
// prettier-ignore
export const ${constant}: Readonly<Record<string, string>> = {
${lines.join('\n')}
};
`,
  );
};
const all = names.split(/\s+/);
const first = namedAtFirst(all);
write('iconPaths', 'iconPaths', ': those of the first screen', first);
write('moreIconPaths', 'moreIconPaths', ': all others', all.filter((name) => !first.includes(name))); // prettier-ignore
