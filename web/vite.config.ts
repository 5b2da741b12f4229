import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

const here = (path: string) => new URL(path, import.meta.url).pathname;

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  resolve: {
    alias: { $api: here('./src/api'), $parts: here('./src/parts'), $state: here('./src/state') }
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8620' } },
  build: {
    target: 'es2023',
    assetsInlineLimit: 0,
    rolldownOptions: {
      treeshake: {
        // flowbite-svelte does not say that its modules have no side effects, and would be shipped whole
        moduleSideEffects: [
          { test: /node_modules\/flowbite-svelte\/dist\/.*\.(js|svelte)$/, sideEffects: false }
        ]
      }
    }
  }
});
