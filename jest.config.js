/** Packages that are ES modules only. */
const modules = ['franc-min', 'trigram-utils', 'n-gram', 'collapse-white-space'];
const node = (name) => ({
  displayName: name,
  rootDir: `${__dirname}/${name}`,
  testEnvironment: 'node',
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  transformIgnorePatterns: [`/node_modules/(?!(${modules.join('|')})/)`],
  transform: {
    '^.+\\.(m?[jt]sx?)$': [
      `${__dirname}/scripts/jest-transform.cjs`,
      { jsc: { target: 'es2022', parser: { syntax: 'typescript' } }, module: { type: 'commonjs' } },
    ],
  },
  moduleNameMapper: { '^@libretto/(core|model|formats|text)$': `${__dirname}/$1/src/index.ts` },
});

/** @type {import('jest').Config} */
module.exports = {
  // No test passes only on a quick machine.
  testTimeout: 60_000,
  projects: [
    ...['core', 'model', 'formats', 'text', 'cli', 'demo', 'bench'].map(node),
    // The packages that talk WebDAV and SMTP are ES modules.
    { ...node('server'), transformIgnorePatterns: [] },
    require('./app/jest.config.js'),
  ],
};
