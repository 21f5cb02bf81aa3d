declare module 'markdown-it-deflist' {
  import type MarkdownIt from 'markdown-it'

  const plugin: (parser: InstanceType<typeof MarkdownIt>) => void
  export default plugin
}
