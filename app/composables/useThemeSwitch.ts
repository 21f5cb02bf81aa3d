import { computed, type ComputedRef } from 'vue'
import { useTheme } from 'vuetify'

/** The light and the dark theme; the choice is kept in this browser. */
export function useThemeSwitch(): { readonly isDark: ComputedRef<boolean>, readonly change: () => void } {
  const theme = useTheme()
  const isDark = computed(() => theme.global.name.value === 'lamp')
  return {
    isDark,
    change: () => {
      const next = isDark.value ? 'paper' : 'lamp'
      theme.change(next)
      localStorage.setItem('theme', next)
    },
  }
}
