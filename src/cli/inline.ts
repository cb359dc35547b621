export async function inlineCommand(_a: unknown, _b: unknown): Promise<number> {
  return 0;
}
