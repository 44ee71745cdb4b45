import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// Without the plugin of the framework, which wants no server of its own on a machine that only tests.
// A slow machine is no fault: a test that hangs ends all the same.
export default defineConfig({ plugins: [react()], test: { testTimeout: 60_000, maxWorkers: 2, setupFiles: ['resources/js/testing/setup.ts'] } });
