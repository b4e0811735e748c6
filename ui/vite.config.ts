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
    rollupOptions: { input: ['index.html', 'home.html'] },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
})
