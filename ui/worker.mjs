/**
 * Writes dist/worker.js, the service worker of practice at home: it keeps the page and all that the
 * page loads, so that it opens without a connection, and answers with the sounds that were saved.
 */
import { readFileSync } from 'node:fs'

import { generateSW } from 'workbox-build'

const DIST = 'dist'
const PAGE = 'home.html'
/** Where the page is had under its own name, whatever link it was opened by. */
const ADDRESS = '/home/app.html'

/** All files that the page may load: its own, and what these load in turn. */
function filesOf(entry, manifest, seen = new Set()) {
  const chunk = manifest[entry]
  if (!chunk || seen.has(entry)) return []
  seen.add(entry)
  const loaded = [...(chunk.imports ?? []), ...(chunk.dynamicImports ?? [])]
  return [
    chunk.file,
    ...(chunk.css ?? []),
    ...(chunk.assets ?? []),
    ...loaded.flatMap((name) => filesOf(name, manifest, seen)),
  ]
}

const manifest = JSON.parse(readFileSync(`${DIST}/.vite/manifest.json`, 'utf8'))
// Every browser that has a service worker takes woff2.
const files = [...new Set(filesOf(PAGE, manifest))].filter((file) => !file.endsWith('.woff'))

const { count, size, warnings } = await generateSW({
  globDirectory: DIST,
  globPatterns: [PAGE, ...files],
  swDest: `${DIST}/worker.js`,
  mode: 'production',
  sourcemap: false,
  inlineWorkboxRuntime: true,
  skipWaiting: true,
  clientsClaim: true,
  cleanupOutdatedCaches: true,
  dontCacheBustURLsMatching: /^assets\//,
  manifestTransforms: [
    (entries) => ({
      manifest: entries.map((entry) => ({
        ...entry,
        url: entry.url === PAGE ? ADDRESS : `/${entry.url}`,
      })),
    }),
  ],
  navigateFallback: ADDRESS,
  navigateFallbackAllowlist: [/^\/home\//],
  runtimeCaching: [
    {
      urlPattern: /\/api\/home\/[^/]+\/(sounds|assets|spoken)/,
      handler: 'CacheFirst',
      options: { cacheName: 'hastatus sounds' },
    },
  ],
})
for (const warning of warnings) throw new Error(warning)
console.log(`worker: ${count} files, ${Math.round(size / 1024)} kB`)
