export * from './backup';
export { restoreBackup } from './restore';
