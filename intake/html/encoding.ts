/** The encoding that a page declares in its head (HTML Standard, 13.2.3.2, without the full prescan); undefined without one. */
export function declaredEncoding(head: string): string | undefined {
  const declared = /<meta[^>]+charset\s*=[\s"']*([\w:.-]+)/iu.exec(head)?.[1] ?? /^<\?xml[^>]+encoding\s*=\s*["']([\w:.-]+)/iu.exec(head)?.[1]
  if (declared === undefined) return undefined
  return /^(?:iso-8859-1|us-ascii|latin1)$/iu.test(declared) ? 'windows-1252' : declared.toLowerCase()
}
