export * from './carrying';
export * from './lists';
export * from './names';
export * from './order';
export * from './records';
export * from './sizes';
export * from './checking';
