/** The shapes that packages have: a zip, files in a folder, style sheet and body apart, one file of HTML, a mail. */
export const packageShapes = ['zip', 'folder', 'split', 'single', 'eml'] as const;

export type ShapeName = (typeof packageShapes)[number];
