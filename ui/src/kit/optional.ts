import { lazy, type ComponentType } from 'react'

/**
 * A part that is loaded later and that a page can do without: where it cannot be loaded, as without
 * a line, nothing stands in its place, and the page goes on.
 */
export function optional<P extends object>(load: () => Promise<{ default: ComponentType<P> }>) {
  return lazy(() => load().catch(() => ({ default: (() => null) as ComponentType<P> })))
}
