/** Whether a text is what a starter puts where its user has to fill in his own: `(your postal address)`, `your-domain.example`. */
export function isUnfilled(text: string): boolean {
  return /^\((?:the|your)\b.*\)$/.test(text.trim()) || /(?:^|[@/.])your-domain\.example\b/.test(text);
}
