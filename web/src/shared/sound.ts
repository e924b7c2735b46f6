/** Tones and spoken words, for eyes that are at the work. */
let ears: AudioContext | undefined
let humming: { tone: OscillatorNode; gain: GainNode } | undefined

function context(): AudioContext | undefined {
  try {
    ears ??= new AudioContext()
    void ears.resume()
    return ears
  } catch {
    return undefined // no sound here
  }
}

/** A short tone: high when something was taken, low when it was refused. */
export function beep(good: boolean): void {
  const here = context()
  if (!here) return
  const tone = here.createOscillator()
  const gain = here.createGain()
  tone.frequency.value = good ? 880 : 220
  gain.gain.setValueAtTime(0.15, here.currentTime)
  gain.gain.exponentialRampToValueAtTime(0.001, here.currentTime + 0.15)
  tone.connect(gain).connect(here.destination)
  tone.start()
  tone.stop(here.currentTime + 0.16)
}

/**
 * A tone that follows how far the needle is from its aim: low far away, an octave higher for each halving, up to three.
 *
 * @param part distance from the aim in graduations; undefined ends it
 */
export function hum(part: number | undefined): void {
  if (part === undefined) {
    humming?.tone.stop()
    humming = undefined
    return
  }
  const here = context()
  if (!here) return
  if (!humming) {
    const tone = here.createOscillator()
    const gain = here.createGain()
    gain.gain.value = 0.06
    tone.connect(gain).connect(here.destination)
    tone.start()
    humming = { tone, gain }
  }
  humming.tone.frequency.setTargetAtTime(pitchOf(part), here.currentTime, 0.05)
}

/** Hertz for a distance in graduations. */
export function pitchOf(part: number): number {
  const halvings = Math.log2(16 / Math.max(Math.abs(part), 0.5))
  return 220 * 2 ** Math.min(Math.max(halvings * 0.6, 0), 3)
}

/** Say it aloud, where the system has a voice. */
export function speak(words: string): void {
  if (!('speechSynthesis' in window)) return
  window.speechSynthesis.cancel()
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(words))
}
