declare module '#nitro-internal-virtual/server-handlers' {
  export const handlers: readonly { readonly lazy: boolean, readonly handler: unknown }[]
}
