import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  root: 'web',
  plugins: [vue()],
  // The server puts a fresh nonce here for every request; see server/http/pages.ts.
  html: { cspNonce: '__CSP_NONCE__' },
  build: { outDir: '../dist', emptyOutDir: true, chunkSizeWarningLimit: 1500, target: 'es2022' },
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    port: 5173,
    proxy: { '/api': { target: process.env.BALDACCHINO_API ?? 'http://127.0.0.1:4317' } },
  },
  optimizeDeps: {
    include: ['ant-design-vue', '@ant-design/icons-vue', 'three', 'comlink', 'd3-scale', 'valibot'],
  },
})
