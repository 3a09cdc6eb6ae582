/** What announces a delivery travels in a header: a message of 2,000 signs takes up to 24 kB in it. */
export const headerBytes = 48 * 1024;
