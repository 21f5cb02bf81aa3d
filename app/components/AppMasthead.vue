<script setup lang="ts">
import { mdiHelpCircleOutline, mdiTextSearchVariant, mdiWeatherNight, mdiWhiteBalanceSunny } from '@mdi/js'
import { clock } from '#core/estimate/clock'
import { useDesk } from '~/stores/desk'
import { useKeys } from '~/stores/keys'
import { useNotices } from '~/stores/notices'
import { useProduction } from '~/stores/production'
import { languageName } from '~/utils/format'

// The head of every page: where one is, the stages of the work, and the job that is running.

const desk = useDesk()
const notices = useNotices()
const route = useRoute()
const production = useProduction()

const stages = computed(() => {
  if (typeof route.params['production'] !== 'string' || desk.desk === null) return []
  const stage = (name: string, path: string, count: number | null = null) => ({ name, path, to: production.page(path), count })
  return [
    stage('Intake', 'intake'),
    stage('Script', 'script'),
    stage('Words', 'words'),
    stage('Cast', 'cast'),
    stage('Reading', 'reading', desk.missing === 0 ? null : desk.missing),
    stage('Delivery', 'delivery'),
  ]
})
/** Pages that belong to a stage of another name. */
const pagesOf: Readonly<Record<string, string>> = { report: 'delivery', version: 'intake' }
const hereNow = computed(() => {
  const name = route.path.split('/')[3] ?? ''
  return pagesOf[name] ?? name
})
const percent = computed(() => desk.running === null ? 0 : Math.floor(desk.running.madeMs / Math.max(1, desk.running.totalMs) * 100))

/** The editions by their languages; of several in one language each has its number. */
const editions = computed(() => production.editions.map(({ id, language }, index, all) => {
  const same = all.filter(each => each.language === language)
  return { id, name: `${languageName(language)}${same.length > 1 ? ` ${all.slice(0, index + 1).filter(each => each.language === language).length}` : ''}` }
}))

/** The same stage of another edition. */
function change(editionId: string): void {
  const here = stages.value.find(({ path }) => path === hereNow.value)
  void navigateTo(production.page(here?.path ?? 'script', {}, editionId))
}

const { isDark, change: switchTheme } = useThemeSwitch()
const keys = useKeys()
const go = (path: string) => () => stages.value.some(stage => stage.path === path) ? navigateTo(production.page(path)) : false
useCommands('stages', { goIntake: go('intake'), goScript: go('script'), goWords: go('words'), goCast: go('cast'), goReading: go('reading'), goDelivery: go('delivery') })
</script>

<template>
  <header class="masthead">
    <NuxtLink to="/" class="brand" aria-label="Orator Quill, to the shelf"><QuillMark /><span class="serif">Orator Quill</span></NuxtLink>
    <p v-if="desk.desk !== null && stages.length > 0" class="where">
      {{ desk.desk.title }} <span class="quiet">/</span>{{ ' ' }}
      <b v-if="editions.length < 2">{{ languageName(desk.desk.language) }}</b>
      <select v-else :value="production.editionId" aria-label="Edition" @change="change(($event.target as HTMLSelectElement).value)">
        <option v-for="each in editions" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select>
    </p>
    <div v-if="desk.running !== null && stages.length > 0" class="job" role="status">
      <v-progress-linear :model-value="percent" color="verdigris" height="4" aria-label="Reading" />
      <span>Reading {{ percent }} %<template v-if="desk.running.leftMs !== null"> · {{ clock(desk.running.leftMs) }} left</template></span>
      <v-btn size="x-small" @click="notices.attempt(desk.stopReading)">Stop</v-btn>
    </div>
    <nav v-if="stages.length > 0" aria-label="Stages">
      <NuxtLink v-for="stage in stages" :key="stage.name" :to="stage.to" class="stage" :class="{ here: stage.path === hereNow }">
        {{ stage.name }}<span v-if="stage.count !== null" class="stage-count"> {{ stage.count }}<span class="sr-only"> to read</span></span>
      </NuxtLink>
    </nav>
    <div class="signs">
      <IconButton :icon="mdiTextSearchVariant" name="All commands" :hint="keys.withKey('All commands', 'commands')" @click="keys.run('commands')" />
      <IconButton :icon="mdiHelpCircleOutline" name="Help" :hint="keys.withKey('Help', 'help')" @click="keys.run('help')" />
      <IconButton :icon="isDark ? mdiWhiteBalanceSunny : mdiWeatherNight" :name="isDark ? 'Light theme' : 'Dark theme'" @click="switchTheme" />
    </div>
  </header>
</template>

<style scoped>
.masthead { min-height: var(--masthead); display: flex; align-items: center; gap: 22px; padding: 0 18px; background: var(--sheet); border-bottom: 1px solid var(--line); flex-wrap: wrap; }
.brand { display: flex; align-items: center; gap: 8px; color: var(--ink); text-decoration: none; font-size: 19px; }
.where select { font: inherit; font-weight: 600; color: var(--ink); background: var(--paper); border: 1px solid var(--line); border-radius: 3px; padding: 2px 6px; }
.where { font-size: 14.5px; margin: 0; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
nav { display: flex; align-self: stretch; margin-left: auto; }
.stage { display: flex; align-items: center; padding: 0 13px; color: var(--ink); text-decoration: none; border-bottom: 3px solid transparent; border-top: 3px solid transparent; min-height: var(--masthead); }
.stage:hover { background: var(--paper); }
.stage.here { border-bottom-color: var(--verdigris); font-weight: 600; }
.stage-count { color: var(--ochre); font-size: 12.5px; font-weight: 600; margin-left: 6px; }
.job { display: grid; grid-template-columns: auto auto; align-items: center; gap: 0 10px; font-size: 13px; min-width: 150px; font-variant-numeric: tabular-nums; }
.job > :first-child { grid-column: 1 / -1; }
.signs { display: flex; }
nav + .signs { margin-left: -10px; }
.brand:nth-last-child(2) + .signs { margin-left: auto; }
@media (max-width: 1000px) {
  .masthead { gap: 6px 14px; padding: 4px 12px; }
  nav { order: 5; width: 100%; margin: 0; overflow-x: auto; }
  .stage { min-height: 36px; padding: 0 10px; }
  .signs { margin-left: auto !important; }
}
@media (max-width: 639px) {
  .brand span { display: none; }
  .where { flex: 1 1 0; }
  nav { flex-wrap: wrap; }
  .stage { padding: 0 6px; font-size: 14px; }
  .stage-count { margin-left: 4px; }
}
</style>
