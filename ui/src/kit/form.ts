/** What is written in a field of a form; '' where there is none of that name. */
export function textOf(form: FormData, name: string): string {
  const written = form.get(name)
  return typeof written === 'string' ? written : ''
}
