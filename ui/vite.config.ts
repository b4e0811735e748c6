import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    manifest: true,
    rollupOptions: {
      input: ['index.html', 'home.html'],
      output: {
        // What many views use comes in one file: each of a few hundred bytes is a request of its own.
        codeSplitting: { groups: [{ name: 'shared', test: /src/, minShareCount: 6 }] },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
})
