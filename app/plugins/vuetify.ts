import { createVuetify, type ThemeDefinition } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { lamp, paper, type Palette } from '~/utils/themes'

function theme(palette: Palette, dark: boolean): ThemeDefinition {
  return {
    dark,
    colors: {
      ...palette,
      'background': palette.paper,
      'surface': palette.sheet,
      'primary': palette.verdigris,
      'on-primary': dark ? palette.paper : palette.sheet,
      'error': palette.vermilion,
      'on-background': palette.ink,
      'on-surface': palette.ink,
    },
    variables: { 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 1, 'border-color': palette.line, 'border-opacity': 1 },
  }
}

export default defineNuxtPlugin(nuxt => {
  nuxt.vueApp.use(createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    theme: { defaultTheme: savedTheme(), themes: { paper: theme(paper, false), lamp: theme(lamp, true) } },
    defaults: {
      global: { ripple: false, rounded: 'sm' },
      VBtn: { variant: 'outlined', density: 'comfortable', class: 'button' },
      VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
      VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
      VAutocomplete: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
      VCombobox: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
      VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
      // Without a colour of its own the track is as dark as what fills it.
      VProgressLinear: { bgColor: 'line', bgOpacity: 1 },
      VSlider: { density: 'compact', hideDetails: true, thumbSize: 16, trackSize: 3, color: 'verdigris' },
    },
  }))
})

/** The theme chosen last, else what the system asks for. */
function savedTheme(): 'paper' | 'lamp' {
  const saved = localStorage.getItem('theme')
  if (saved === 'paper' || saved === 'lamp') return saved
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'lamp' : 'paper'
}
