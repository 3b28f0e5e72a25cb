/**
 * The component library makes style elements at run time and can't be told a nonce, which the content security
 * policy asks for; so every style element made from here on gets the page's own.
 */
export function giveStylesTheNonce(): void {
  const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce
  if (!nonce) return
  const original = document.createElement.bind(document)
  document.createElement = ((tag: string, options?: ElementCreationOptions) => {
    const element = original(tag, options)
    if (tag.toLowerCase() === 'style') element.setAttribute('nonce', nonce)
    return element
  }) as typeof document.createElement
}
