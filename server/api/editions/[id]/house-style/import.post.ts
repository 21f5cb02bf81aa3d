import { fail, ProblemError } from '#core/problem'
import { houseStyleFileSchema, houseStyleOfFile, patchBetween, type HouseStyleFile } from '#core/style/house-style'
import { styleImportQuerySchema, type StyleImportQuery } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { applyOperations } from '#store/operations'
import { faultIn, idParam, queryOf, rawBody, route } from '../../../../utils/route'

const query = queryOf<StyleImportQuery>(styleImportQuerySchema)
const maximumBytes = 1024 * 1024
const faultOfFile = faultIn(houseStyleFileSchema)

/** Takes over a house style from a file, as one edit. What the file leaves out stays. */
export default route(async (event, { database }) => {
  const { name, window } = query(event)
  const id = idParam(event)
  const { style } = await loadEdition(id)
  let value: unknown
  try {
    value = JSON.parse((await rawBody(event, maximumBytes, name)).toString('utf8'))
  } catch (error) {
    if (error instanceof ProblemError) throw error
    fail('house-style-broken', `${name} is not valid JSON: ${(error as Error).message}.`)
  }
  const fault = faultOfFile(value)
  if (fault !== null) fail('house-style-wrong', `${name}: ${fault} See docs/formats.md.`)
  const brought = houseStyleOfFile(style, value as HouseStyleFile)
  await applyOperations(database, id, window, [{ op: 'setHouseStyle', patch: patchBetween(style, brought) }])
  return { rules: brought.rules.length }
})
