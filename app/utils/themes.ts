/** The roles of colour. Every theme gives each one a value; `tests/unit/app/themes.test.ts` computes the contrasts. */
export interface Palette {
  readonly ink: string
  readonly paper: string
  readonly sheet: string
  readonly line: string
  readonly gall: string
  readonly quiet: string
  readonly verdigris: string
  readonly vermilion: string
  readonly ochre: string
  readonly ochreFill: string
  readonly dusk: string
  readonly lit: string
  readonly staleWash: string
}

/** Light: a sheet on a desk. */
export const paper: Palette = {
  ink: '#1f2a30', paper: '#f2ede1', sheet: '#fffdf8', line: '#d9d2c1', gall: '#3b4a54', quiet: '#5c666b',
  verdigris: '#27695f', vermilion: '#b03a22', ochre: '#7d5a12', ochreFill: '#c9a65a', dusk: '#5f5e86',
  lit: '#d8e7e3', staleWash: '#f4e9cd',
}

/** Dark: the same desk by lamp light. */
export const lamp: Palette = {
  ink: '#ece5d6', paper: '#20211f', sheet: '#292b29', line: '#45463f', gall: '#c9c6ba', quiet: '#a8a698',
  verdigris: '#7fc4b6', vermilion: '#f09a82', ochre: '#dfbc72', ochreFill: '#8f7233', dusk: '#b6b4de',
  lit: '#223e3a', staleWash: '#4a3f22',
}
