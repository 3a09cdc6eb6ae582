export const depth = 1;
export const base = 0;
export const step = 1;
export const cuts = ['0'];
export const packed = '';
