import { onScopeDispose } from 'vue'
import type { Handlers, KeyView } from '~/keys/tables'
import { useKeys } from '~/stores/keys'

/** Makes the commands of a view do something as long as its component is there. */
export function useCommands<View extends KeyView>(view: View, handlers: Handlers<View>): void {
  onScopeDispose(useKeys().open(view, handlers))
}
