/** Rings three short tones. A browser that has had no tap yet may not sound; what rings is shown all the same. */
export function ring(): void {
  try {
    const audio = new AudioContext();
    [0, 0.35, 0.7].forEach((at) => {
      const tone = audio.createOscillator();
      const volume = audio.createGain();
      tone.frequency.value = 880;
      volume.gain.setValueAtTime(0.25, audio.currentTime + at);
      volume.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + at + 0.3);
      tone.connect(volume).connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.3);
    });
    setTimeout(() => void audio.close(), 1500);
  } catch {
    // No sound here.
  }
}
