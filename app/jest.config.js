/** @type {import('jest').Config} */
module.exports = {
  displayName: 'app',
  rootDir: __dirname,
  preset: 'jest-expo/web',
  setupFiles: ['<rootDir>/jest.setup.js'],
  setupFilesAfterEnv: ['@testing-library/jest-dom', '<rootDir>/jest.waiting.js'],
  moduleNameMapper: {
    '^@expo/vector-icons/MaterialCommunityIcons$': '<rootDir>/src/ui/icons.tsx',
    '^@/(.*)$': '<rootDir>/src/$1',
  },
  testMatch: ['<rootDir>/src/**/*.test.ts?(x)'],
};
