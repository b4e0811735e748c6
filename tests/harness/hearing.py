"""A microphone for browser tests: a stream inside the page's own audio context.

What the page plays leaks into it after a delay, as through a room, and strikes can be put into it
at a given moment of the audio clock. (Chromium's own fake microphone slips too much for that.)
"""

from __future__ import annotations

DELAY_MS = 60.0
"""Way out and in, before the hop of the stream itself."""


def microphone(delay_ms: float = DELAY_MS, leak: float = 0.15, hiss: float = 0.0005) -> str:
    """Script for `add_init_script`.

    leak: how much of the page's sound gets in. hiss: largest sample of the noise of the room.
    """
    return (
        MICROPHONE.replace("DELAY_S", str(delay_ms / 1000))
        .replace("LEAK", str(leak))
        .replace("HISS", str(hiss))
    )


MICROPHONE = """
(() => {
  const Real = window.AudioContext;
  const buses = new WeakMap();
  let last = null;
  let delay_s = DELAY_S;
  const delays = [];
  window.AudioContext = class extends Real {
    constructor(...options) { super(...options); last = this; offsets_ms.length = 0; }
  };
  // One reading of the clocks is off by up to 20 ms on a busy machine; the middle of many is not.
  const offsets_ms = [];
  const read = () => {
    const stamp = last?.getOutputTimestamp();
    if (!stamp?.contextTime) return;
    offsets_ms.push(stamp.performanceTime - 1000 * stamp.contextTime);
    if (offsets_ms.length > 41) offsets_ms.shift();
  };
  setInterval(read, 25);
  const audio_s = (t_ms) => {
    read();
    const sorted = [...offsets_ms].sort((one, other) => one - other);
    return (t_ms - sorted[Math.floor(sorted.length / 2)]) / 1000;
  };
  const connect = AudioNode.prototype.connect;
  function bus(context) {
    let found = buses.get(context);
    if (found) return found;
    const gain = context.createGain();
    const out = new MediaStreamAudioDestinationNode(context, { channelCount: 1 });
    connect.call(gain, out);
    const size = 4 * context.sampleRate;
    const hiss = context.createBuffer(1, size, context.sampleRate);
    const samples = hiss.getChannelData(0);
    for (let i = 0; i < size; i++) samples[i] = HISS * (2 * Math.random() - 1);
    const source = context.createBufferSource();
    source.buffer = hiss; source.loop = true; connect.call(source, gain); source.start();
    found = { gain, stream: out.stream };
    buses.set(context, found);
    return found;
  }
  AudioNode.prototype.connect = function (to, ...rest) {
    if (to instanceof AudioDestinationNode) {
      const delay = this.context.createDelay(1);
      delay.delayTime.value = delay_s;
      delays.push(delay);
      const leak = this.context.createGain();
      leak.gain.value = LEAK;
      connect.call(this, delay);
      connect.call(delay, leak);
      connect.call(leak, bus(this.context).gain);
    }
    return connect.call(this, to, ...rest);
  };
  const play = (samples, at_s) => {
    const buffer = last.createBuffer(1, samples.length, last.sampleRate);
    buffer.copyToChannel(samples, 0);
    const source = last.createBufferSource();
    source.buffer = buffer;
    connect.call(source, bus(last).gain);
    source.start(at_s);
  };
  window.room = {
    get context() { return last; },
    play,
    set delay_ms(ms) {
      delay_s = ms / 1000;
      for (const delay of delays) delay.delayTime.value = delay_s;
    },
    /** A strike that is heard `delay_ms` after what the page plays at `t_ms` of its own clock. */
    strike(t_ms, delay_ms, level = 0.4) {
      const samples = new Float32Array(2400);
      for (let i = 0; i < samples.length; i++)
        samples[i] = level * (2 * Math.random() - 1) * Math.exp(-i / 400);
      play(samples, audio_s(t_ms) + delay_s + delay_ms / 1000);
    },
  };
  navigator.mediaDevices.getUserMedia = async () => {
    if (window.refused) throw new DOMException('no', window.refused);
    return bus(last).stream.clone();
  };
})();
"""

STRIKE_BACK = """
(delays) => addEventListener('hastatus:cue', ({ detail }) => {
  const delay_ms = delays[detail.cue];
  if (delay_ms) room.strike(detail.t_ms, delay_ms);
})
"""
"""Answers each cue, when it is committed, by a strike `delays[cue]` ms after its onset."""

MIDI = """
(() => {
  const made = { state: 'connected', name: 'Stand-in pads', onmidimessage: null };
  const access = { inputs: new Map([['one', made]]), outputs: new Map(), onstatechange: null };
  navigator.requestMIDIAccess = async () => {
    if (window.refused) throw new DOMException('no', 'NotAllowedError');
    return access;
  };
  const plug = (state) => { made.state = state; access.onstatechange?.({ port: made }); };
  window.pads = {
    hit(note, channel = 10) {
      const at = { timeStamp: performance.now() };
      made.onmidimessage?.({ ...at, data: [0x90 + channel - 1, note, 90] });
      made.onmidimessage?.({ ...at, data: [0x80 + channel - 1, note, 0] });
    },
    unplug: () => plug('disconnected'),
    plugIn: () => plug('connected'),
  };
})();
"""
"""A stand-in for the browser's MIDI access, with one kit of pads."""

HIT_BACK = """
(notes) => addEventListener('hastatus:shown', ({ detail }) => {
  const wanted = notes[detail.cue];
  if (wanted) setTimeout(() => pads.hit(wanted), 330);
})
"""
"""Answers each cue that came by a hit on its note."""
