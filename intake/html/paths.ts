/** The `path#id` that a link from a document leads to. */
export function targetPath(from: string, target: string): string {
  const at = target.indexOf('#')
  const [path, fragment] = at < 0 ? [target, ''] : [target.slice(0, at), target.slice(at)]
  return (path === '' ? from : joined(from, path)) + decoded(fragment)
}

/** A relative path of a container, without dots. */
export function joined(from: string, path: string): string {
  const parts = path.startsWith('/') ? [] : from.split('/').slice(0, -1)
  for (const part of decoded(path).split('/')) {
    if (part === '..') parts.pop()
    else if (part !== '.' && part !== '') parts.push(part)
  }
  return parts.join('/')
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}
