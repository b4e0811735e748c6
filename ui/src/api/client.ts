/** The API's client: CSRF token on every write, problem documents as errors. */
import createClient from 'openapi-fetch'

import type { paths } from './schema'
import type { Problem } from './types'

const CSRF_HEADER = 'X-CSRF-Token'

let token = ''

/** Keep the CSRF token of the present sign-in. */
export function keepToken(csrf: string): void {
  token = csrf
}

/** The header that every write carries. */
export function writeHeaders(): Record<string, string> {
  return { [CSRF_HEADER]: token }
}

/** An error answer of the API. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail)
  }
}

/** Whether an answer says that nobody is signed in. */
export function isSignedOut(error: unknown): boolean {
  return error instanceof ApiError && error.status === 401
}

/** Nothing answered at all. */
export class NoConnection extends Error {
  constructor() {
    super('Hastatus does not answer. Is it running, and is this device on the same network?')
  }
}

export const api = createClient<paths>({ baseUrl: '' })

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set(CSRF_HEADER, token)
    return request
  },
})

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** The data of an answer; throws `ApiError` or `NoConnection`. */
export async function take<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>
  try {
    got = await answer
  } catch {
    throw new NoConnection()
  }
  if (!got.response.ok) throw new ApiError(got.response.status, got.error as Problem)
  return got.data as T
}
