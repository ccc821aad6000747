import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'node',
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
          include: ['packages/desk/src/**/*.test.{ts,tsx}'],
        },
      },
    ],
  },
});
