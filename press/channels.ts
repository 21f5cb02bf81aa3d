/** The samples of one of several channels that are kept sample by sample in turn. */
export function channelOf(samples: Int16Array, channel: number, channels: number): Int16Array {
  if (channels === 1) return samples
  const one = new Int16Array(Math.floor(samples.length / channels))
  for (let i = 0; i < one.length; i += 1) one[i] = samples[i * channels + channel]!
  return one
}
