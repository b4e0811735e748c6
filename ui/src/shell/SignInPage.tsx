import { SignIn } from '../kit/SignIn'
import { SampleStrip } from './SampleStrip'

/** The first thing anybody sees. */
export function SignInPage() {
  return (
    <main className="flex min-h-screen flex-col">
      <div className="grid flex-1 md:grid-cols-[minmax(22rem,2fr)_3fr]">
        <section className="flex flex-col justify-center gap-8 px-10 py-12">
          <div>
            <h1 className="text-6xl">Hastatus</h1>
            <p className="mt-3 max-w-xs text-soft">
              Plans, runs, scores and adapts drills for defensive reactions. The coach keeps the
              last word.
            </p>
          </div>
          <SignIn />
          <p className="small max-w-xs">
            An owner of the club makes you a link, under their name. The first account is made by
            whoever runs this machine: <span className="whitespace-nowrap">hastatus coach add</span>
          </p>
        </section>
        <section className="hidden flex-col justify-center border-l border-line bg-wash px-12 md:flex">
          <SampleStrip />
        </section>
      </div>
      <p className="small border-t border-line px-10 py-3">
        A training aid, no medical or legal advice. Local law, medical professionals and licensed
        instruction come first.
      </p>
    </main>
  )
}
