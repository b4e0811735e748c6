import { useEffect } from 'react'

/** What the browser's tab and its history call this page. */
export function usePageTitle(title: string): void {
  useEffect(() => {
    document.title = title ? `${title} · Hastatus` : 'Hastatus'
  }, [title])
}
