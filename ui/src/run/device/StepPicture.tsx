export type Picture = 'sound' | 'strike' | 'display' | 'camera' | 'pads' | 'file'

const LINES: Record<Picture, string> = {
  // A loudspeaker, what it gives out, and a microphone.
  sound:
    'M8 24h12l14-12v40L20 40H8ZM42 24q6 8 0 16M50 18q11 14 0 28M58 12q16 20 0 40M86 14a7 7 0 0 1 7 7v12a7 7 0 0 1-14 0V21a7 7 0 0 1 7-7M74 32q0 14 12 14t12-14M86 46v10M78 56h16',
  // A hand that comes down on a key.
  strike: 'M20 44h60v12H20ZM32 44v-6h36v6M50 8v20M42 20l8 9 8-9M14 36q-6-6-4-14M86 36q6-6 4-14',
  // A screen that lights up.
  display:
    'M14 8h72v40H14ZM40 56h20M50 48v8M50 16v6M50 34v6M38 28h-6M68 28h-6M42 20l-4-4M58 20l4-4M42 36l-4 4M58 36l4 4',
  // A camera that looks into a mirror.
  camera:
    'M10 22h34v24H10ZM44 30l12-8v24l-12-8M20 34a7 7 0 0 1 14 0 7 7 0 0 1-14 0M76 8h16v48H76ZM64 30h6M62 22l6 3M62 44l6-3',
  // Pads in two columns.
  pads: 'M18 8h26v20H18ZM56 8h26v20H56ZM18 36h26v20H18ZM56 36h26v20H56Z',
  // A sheet that is kept.
  file: 'M30 6h28l14 14v38H30ZM58 6v14h14M38 34h26M38 44h26',
}

/** What is done in a step, as a plain drawing. */
export function StepPicture({ of }: { of: Picture }) {
  return (
    <svg viewBox="0 0 104 64" className="h-16 w-26 shrink-0" aria-hidden="true">
      <path
        d={LINES[of]}
        fill="none"
        stroke="currentColor"
        strokeWidth={3}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}
