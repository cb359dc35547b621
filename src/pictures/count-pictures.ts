/** "1 picture", "3 pictures". */
export function countPictures(count: number): string {
  return count === 1 ? '1 picture' : `${count} pictures`;
}
