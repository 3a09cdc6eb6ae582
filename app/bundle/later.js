/** What lazy parts share and the first screen does not need comes with the first of them that needs it (scripts/split-common.mjs names it in the page). */
const said = typeof document === 'undefined' ? null : document.querySelector('meta[name="later"]');
if (said) {
  const { file, without } = JSON.parse(said.content);
  let load = globalThis.__loadBundleAsync;
  const loadWithShared = async (part) => {
    if (!without.includes(part)) await load(file);
    return load(part);
  };
  // Expo's own loader may be set before this or after it.
  Object.defineProperty(globalThis, '__loadBundleAsync', {
    configurable: true,
    get: () => load && loadWithShared,
    set: (next) => void (load = next),
  });
}
