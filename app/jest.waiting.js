// No test passes only on a quick machine: what is waited for comes when it comes. After the framework is there, so that Testing Library tidies up after each test.
if (typeof document !== 'undefined') require('@testing-library/react').configure({ asyncUtilTimeout: 30_000 });
