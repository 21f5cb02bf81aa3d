import { defaultHouseStyle, houseStyleFileSchema } from '#core/style/house-style'
import { presetRules, type PresetName } from '#core/style/presets'
import { printJson } from './print'

/** Prints a house style to start from, or the schema of its file. */
export function printHouseStyle(preset: PresetName, { schema }: { readonly schema?: boolean }): void {
  printJson(schema === true ? houseStyleFileSchema : { ...defaultHouseStyle, name: `${preset.charAt(0).toUpperCase()}${preset.slice(1)}`, rules: presetRules(preset) })
}
