/** Interpolation to four times the rate: two of its four phases; the others are these read backwards (ITU-R BS.1770-4, Annex 2, *from memory*). */
const quarter = [
  0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625,
  0.97216796875, -0.102294921875, 0.047607421875, -0.0266113281250, 0.014892578125, -0.00830078125,
]
const half = [
  -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625,
  0.77978515625, -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
]
/** Weights for places between two samples, in order; the two lie in their middle. */
type Interpolator = readonly Float64Array[]

/** As meters do it. */
const metering: Interpolator = [quarter, half, half.toReversed(), quarter.toReversed()].map(phase => Float64Array.from(phase))

/** The filter of the standard lets through less of what is near the upper end of the band, of which a track of a low rate has much: what peaks are held by is longer. */
const fineTaps = 40
const fine: Interpolator = [0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875].map(place => Float64Array.from({ length: fineTaps }, (_, tap) => {
  const distance = place + fineTaps / 2 - 1 - tap
  return distance === 0 ? 1 : Math.sin(Math.PI * distance) / (Math.PI * distance) * (0.5 + 0.5 * Math.cos(2 * Math.PI * distance / (fineTaps + 1)))
}))

/** Whether no neighbour of a sample is larger: what is largest between samples is beside such a one. */
export function isTop(samples: Float32Array | Int16Array, at: number): boolean {
  const size = magnitude(samples[at]!)
  return size >= magnitude(samples[at - 1] ?? 0) && size >= magnitude(samples[at + 1] ?? 0)
}

/** The largest magnitude of the signal from the sample before one to the sample after it, in the unit of the samples, as meters find it. What is outside of them is silence. */
export function truePeakAt(samples: Float32Array | Int16Array, at: number): number {
  return largestAbout(samples, at, metering)
}

/** The same, found more exactly. */
export function finePeakAt(samples: Float32Array, at: number): number {
  return largestAbout(samples, at, fine)
}

function largestAbout(samples: Float32Array | Int16Array, at: number, interpolator: Interpolator): number {
  return Math.max(magnitude(samples[at]!), largestAfter(samples, at - 1, interpolator), largestAfter(samples, at, interpolator))
}

/** The largest magnitude between a sample and the next. */
function largestAfter(samples: Float32Array | Int16Array, at: number, interpolator: Interpolator): number {
  let peak = 0
  const taps = interpolator[0]!.length
  const first = at - taps / 2 + 1
  for (const phase of interpolator) {
    let sum = 0
    for (let tap = 0; tap < taps; tap += 1) sum += phase[tap]! * (samples[first + tap] ?? 0)
    const size = magnitude(sum)
    if (size > peak) peak = size
  }
  return peak
}

/** As Math.abs, for loops over every sample. */
export function magnitude(sample: number): number {
  return sample < 0 ? -sample : sample
}
