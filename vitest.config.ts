import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// Without the plugin of the framework, which wants no server of its own on a machine that only tests.
export default defineConfig({ plugins: [react()] });
