jest.mock('@react-native-async-storage/async-storage', () => require('@react-native-async-storage/async-storage/jest'));
// Icon fonts: there is no asset registry under Jest.
jest.mock('expo-font', () => ({ ...jest.requireActual('expo-font'), isLoaded: () => true, loadAsync: async () => {} }));
require('fake-indexeddb/auto');
if (!globalThis.structuredClone)
  globalThis.structuredClone = (v) => require('node:v8').deserialize(require('node:v8').serialize(v));
const { TextDecoder, TextEncoder } = require('node:util');
if (!globalThis.TextDecoder) Object.assign(globalThis, { TextDecoder, TextEncoder });
