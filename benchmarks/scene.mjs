// Runs the detector over a recording outside the browser: node scene.mjs FILE, strikes as JSON.
import { readFileSync } from 'node:fs'

import { profileOf } from '../ui/src/run/hearing/bands.ts'
import { Detector } from '../ui/src/run/hearing/detector.ts'

const BLOCK = 128
const TOLD_AHEAD_S = 1

function floats(file) {
  const bytes = readFileSync(file)
  return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4)
}

const { rate, samples: file, sounds, cues } = JSON.parse(readFileSync(process.argv[2], 'utf8'))
const detector = new Detector(rate)
for (const [name, sound] of Object.entries(sounds))
  detector.masks.know(name, profileOf(floats(sound), rate))
const samples = floats(file)
const found = []
for (let first = 0; first < samples.length; first += BLOCK) {
  while (cues.length && cues[0].at_s < first / rate + TOLD_AHEAD_S) {
    const cue = cues.shift()
    detector.masks.expect(cue.name, cue.at_s)
  }
  found.push(...detector.push(samples.subarray(first, first + BLOCK)).strikes)
}
process.stdout.write(JSON.stringify(found))
