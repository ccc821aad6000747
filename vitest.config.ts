import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'node',
          // The command line is started as a process of its own, several times a test.
          testTimeout: 240_000,
          environment: 'node',
          include: [
            'packages/{core,painter,player,server,cli}/src/**/*.test.ts',
            'packages/*/test/**/*.test.ts',
            'scripts/**/*.test.ts',
          ],
        },
      },
      {
        extends: './packages/desk/vite.config.ts',
        test: {
          name: 'desk',
          root: import.meta.dirname,
          environment: 'jsdom',
          testTimeout: 240_000,
          include: ['packages/desk/src/**/*.test.{ts,tsx}'],
        },
      },
    ],
  },
});
