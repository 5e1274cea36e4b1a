/**
 * The content policy of the workbench itself. Scripts run by nonce only. Styles are open to inline
 * ones: the interface's libraries place things by `style` attributes, and no text of anybody's ever
 * becomes one. Nothing is asked for from anywhere else; only the proof's shell is framed.
 */
export function workbenchPolicy(nonce: string): string {
  return [
    "default-src 'none'",
    `script-src 'nonce-${nonce}' 'strict-dynamic'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "frame-src 'self'",
    "manifest-src 'none'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join("; ");
}
