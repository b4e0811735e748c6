/** A strike, or a hand that left its home pad. t_ms: on the page's clock. */
export type Struck = {
  kind: 'strike' | 'set_off'
  source: 'microphone' | 'pad' | 'simulated'
  partner: number | null
  t_ms: number
}
