import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'

import '../theme.css'
import { Home } from './Home'
import './home.css'
import { install } from './install'

/** Pictures come with what the link opens; nothing is asked of a server while somebody practises. */
const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })

const token = decodeURIComponent(location.pathname.split('/')[2] ?? '')
install(token)

const root = document.getElementById('root')
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Home token={token} />
      </QueryClientProvider>
    </StrictMode>,
  )
}
