import { computed, nextTick, ref, type ComputedRef, type Ref } from 'vue'
import { joinContents, plainContent, sliceContent, writtenText } from '#core/script/content'
import { checkSsml } from '#core/script/ssml/check'
import { readSsml, type SsmlPassage } from '#core/script/ssml/read'
import { writeContent, writePassage, writeSsml } from '#core/script/ssml/write'
import { namesOf, renamed } from '#core/script/roles'
import type { PagePassage, PartSummary, RoleView } from '#shared/api'
import type { Operation, WholePassage } from '#shared/operations'
import type ScriptPage from '~/components/ScriptPage.vue'
import { useNotices } from '~/stores/notices'
import { usePage } from '~/stores/page'
import { matchedPassages } from '~/utils/passages'
import { withRoleIds } from '~/utils/roles'

/** What the SSML view shows: a part, a passage, or some of the text of one. */
interface SsmlScope {
  readonly scope: 'passage' | 'part' | 'selection'
  readonly passageId: string | null
  readonly start: number
  readonly end: number
}

interface Surroundings {
  readonly sheet: Ref<InstanceType<typeof ScriptPage> | null>
  readonly passages: ComputedRef<readonly PagePassage[]>
  readonly part: ComputedRef<PartSummary | undefined>
  readonly language: () => string
  readonly roles: () => readonly RoleView[]
  readonly operate: (operations: Operation[]) => Promise<unknown>
  readonly operatePassages: (make: () => Operation[]) => Promise<void>
  readonly setPassages: (next: readonly WholePassage[]) => Operation[]
  /** Called before the view opens. */
  readonly before: () => void
}

/** The SSML view of the page, and SSML that is pasted into it. */
export function useSsml({ sheet, passages, part, language, roles, operate, operatePassages, setPassages, before }: Surroundings) {
  const notices = useNotices()
  const pages = usePage()
  const ssml = ref<SsmlScope | null>(null)
  /** The passages as SSML has them: roles by their names. */
  const named = computed(() => passages.value.map(each => renamed(each, namesOf(roles()))))
  const ssmlSource = computed(() => {
    const shown = ssml.value
    if (shown === null) return ''
    if (shown.scope === 'part') {
      return writeSsml({ language: language(), parts: [{ kind: part.value!.kind, label: part.value!.label, passages: named.value.map(plain) }] }, { isPart: true })
    }
    const own = named.value.find(each => each.id === shown.passageId)
    if (own === undefined) return ''
    return shown.scope === 'passage' ? writePassage(plain(own)) : writeContent(sliceContent(own.content, shown.start, shown.end))
  })

  /** Shows the given scope, or what is selected, or the passage of the caret, or the part. */
  async function openSsml(scope?: SsmlScope['scope']): Promise<void> {
    await pages.flush()
    await pages.refresh()
    const caretAt = sheet.value?.selection() ?? { passageId: null, selected: null }
    const from = ssml.value ?? { passageId: caretAt.passageId ?? passages.value[0]?.id ?? null, start: caretAt.selected?.[0] ?? 0, end: caretAt.selected?.[1] ?? 0 }
    const selected = from.end > from.start
    const wanted = scope ?? (selected ? 'selection' : caretAt.passageId === null ? 'part' : 'passage')
    if (wanted === 'selection' && !selected) return notices.show('Select some text of one passage on the page first.')
    before()
    ssml.value = { ...from, scope: wanted }
  }

  function takeSsml(next: readonly SsmlPassage[]): void {
    const shown = ssml.value!
    void operatePassages(() => {
      const { passages: found, make } = withRoleIds(next, roles())
      if (shown.scope === 'part') return [...make, ...setPassages(matchedPassages(passages.value, found))]
      const own = passages.value.find(each => each.id === shown.passageId)
      const first = found[0]
      if (own === undefined) return []
      const content = first?.content ?? plainContent('')
      if (shown.scope === 'selection') {
        const end = writtenText(own.content).length
        ssml.value = { ...shown, end: shown.start + writtenText(content).length }
        return [...make, { op: 'setContent', passageId: own.id, revision: own.revision, content: joinContents(sliceContent(own.content, 0, shown.start), content, sliceContent(own.content, shown.end, end)) }]
      }
      return [
        ...make,
        { op: 'setContent', passageId: own.id, revision: own.revision, content },
        { op: 'setPassage', passageId: own.id, revision: own.revision, kind: first?.kind ?? own.kind, language: first?.language ?? null, role: first?.role ?? null },
      ]
    })
  }

  function closeSsml(): void {
    ssml.value = null
    void nextTick(() => sheet.value?.focus())
  }

  /** SSML that was pasted, and waits for how it is meant. */
  const pasted = ref<string | null>(null)
  const pastedContent = computed(() => {
    if (pasted.value === null) return null
    const { root, source, problems } = checkSsml(pasted.value, { fragmentLanguage: language() })
    if (root === null || problems.some(problem => problem.severity === 'error')) return null
    return joinContents(...readSsml(root, source).passages.flatMap((each, index) => index === 0 ? [each.content] : [plainContent(' '), each.content]))
  })
  async function pasteAs(how: 'directions' | 'text'): Promise<void> {
    const content = how === 'directions' ? pastedContent.value : plainContent(pasted.value!.replace(/\s+/gu, ' '))
    pasted.value = null
    if (content === null) return
    const { passages: [own], make } = withRoleIds([{ content }], roles())
    if (make.length > 0 && await notices.attempt(() => operate(make)) === null) return
    sheet.value?.paste(own!.content)
  }

  return { ssml, ssmlSource, openSsml, takeSsml, closeSsml, pasted, pastedContent, pasteAs }
}

/** A passage as the script has it, where what is not set is left away. */
function plain({ language, role, ...rest }: PagePassage) {
  return { ...rest, ...(language === null ? {} : { language }), ...(role === null ? {} : { role }) }
}
