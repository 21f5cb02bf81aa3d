/**
 * The namespace of what a script says beyond SSML: attributes `kind`, `role`, `part`, `part-kind` and the element
 * `left-out`. Taken away, as SSML 1.1 (2.2.3) has it, they leave a valid document.
 */
export const scriptNamespace = 'urn:orator-quill:script:1'
export const scriptPrefix = 'quill'
