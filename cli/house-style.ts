import { houseStyleFileSchema, presetStyle } from '#core/style/house-style'
import type { PresetName } from '#core/style/presets'
import { printJson } from './print'

/** Prints a house style to start from, or the schema of its file. */
export function printHouseStyle(preset: PresetName, { schema }: { readonly schema?: boolean }): void {
  printJson(schema === true ? houseStyleFileSchema : presetStyle(preset))
}
