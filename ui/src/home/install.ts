/** Makes the page an app of the phone: a manifest of its own link, and a worker that keeps it going. */

type Asking = Event & { prompt: () => Promise<unknown> }

let asking: Asking | null = null
const listeners = new Set<() => void>()

/** Register the worker and the manifest. */
export function install(token: string): void {
  const link = document.createElement('link')
  link.rel = 'manifest'
  link.href = `/home/${encodeURIComponent(token)}/app.webmanifest`
  document.head.append(link)
  // Absent without https: then the page works as long as there is a connection.
  const { serviceWorker } = navigator as { serviceWorker?: ServiceWorkerContainer }
  void serviceWorker?.register('/home/worker.js', { scope: '/home/' }).catch(() => undefined)
  addEventListener('beforeinstallprompt', (event) => {
    event.preventDefault()
    asking = event as Asking
    for (const listener of listeners) listener()
  })
  addEventListener('appinstalled', () => {
    asking = null
    for (const listener of listeners) listener()
  })
}

/** Whether it runs as an app already. */
export function isInstalled(): boolean {
  return matchMedia('(display-mode: standalone)').matches
}

export const asked = {
  /** Whether the browser would ask whether to install it. */
  get: (): boolean => asking !== null,
  subscribe: (listener: () => void): (() => void) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  },
  ask: (): void => void asking?.prompt(),
}
