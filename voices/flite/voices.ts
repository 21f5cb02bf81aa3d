import type { Voice } from '../port'

export type VoiceName = 'slt' | 'rms' | 'awb' | 'kal16' | 'awb_time'

export interface VoiceSettings {
  readonly file: string
  readonly register: string
  readonly name: string
  readonly gender: Voice['gender']
  /** Its own pace, in words a minute of speech without rests, and its own pitch: measured. */
  readonly wordsPerMinute: number
  readonly pitchHz: number
  /** What brings its speech to the level of the embedded engine’s, dB: measured. */
  readonly gainDb: number
  readonly warning?: string
}

export const voiceSettings: Readonly<Record<VoiceName, VoiceSettings>> = {
  slt: { file: 'libflite_cmu_us_slt.so.1', register: 'register_cmu_us_slt', name: 'Slate', gender: 'female', wordsPerMinute: 188, pitchHz: 165, gainDb: -3.4 },
  rms: { file: 'libflite_cmu_us_rms.so.1', register: 'register_cmu_us_rms', name: 'Rampart', gender: 'male', wordsPerMinute: 166, pitchHz: 102, gainDb: 1.6 },
  awb: { file: 'libflite_cmu_us_awb.so.1', register: 'register_cmu_us_awb', name: 'Awbrey', gender: 'male', wordsPerMinute: 183, pitchHz: 124, gainDb: -0.2 },
  kal16: { file: 'libflite_cmu_us_kal16.so.1', register: 'register_cmu_us_kal16', name: 'Kale', gender: 'male', wordsPerMinute: 192, pitchHz: 95, gainDb: 8.4 },
  awb_time: { file: 'libflite_cmu_time_awb.so.1', register: 'register_cmu_time_awb', name: 'Clock', gender: 'male', wordsPerMinute: 200, pitchHz: 124, gainDb: 0, warning: 'Only tells the time: it fails on every other word.' },
}

/** All that the voice of the clock can say: “The time is now, exactly quarter past ten, in the morning.” */
export const clockWords: ReadonlySet<string> = new Set(('the time is now exactly just after a little almost five ten quarter twenty twenty-five half past to '
  + 'one two three four six seven eight nine eleven twelve in morning afternoon evening at night').split(' '))
