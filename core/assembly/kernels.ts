// AssemblyScript, 128-bit SIMD. Each function has a plain TypeScript twin in core/src, which says what it does; pointers are bytes into the
// memory that the caller lays out, with 64 bytes to spare behind every buffer.
export * from './shrink';
export * from './sample';
export * from './finishing';
export * from './sauvola';
export * from './blur';
export * from './windows';
export * from './gradient';
