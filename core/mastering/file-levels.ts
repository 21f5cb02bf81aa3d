/** What was done to the level of a file, and what was measured of it. */
export interface FileLevels {
  readonly gainDb: number
  /** Peaks that were held, and the most that was taken from one, dB. */
  readonly limited: { readonly count: number, readonly mostDb: number }
  readonly rmsDb: number
  readonly integratedDb: number
  readonly samplePeakDb: number
  readonly truePeakDb: number
  readonly noiseFloorDb: number
  readonly clipped: number
}
