/** What to write instead of what tables cannot carry. */
export const layoutAdvice = {
  growsWithWindow: 'It grows with the window for ever: bound it, as in min(5vw, 30px), or write px.',
  tracks: 'Write shares and px: repeat(3, 1fr), 2fr 1fr, 160px 1fr.',
  trackLeast: 'On narrow windows the columns would not fit: write fewer under @media (max-width: 480px).',
  oneShape:
    'Give the picture one shape at all widths: the same aspect-ratio, or a width and a height of the same proportion.',
  cropFirst: 'Crop the picture itself, and give it a width with height: auto.',
  shapeOfPicture: 'Its shape follows the window: write aspect-ratio, as in 16 / 9, with height: auto.',
  fitOfPicture: 'Write object-fit: cover or contain, and object-position in percent or by keywords.',
  markerOfItem: 'Write list-style: none on the list: cells of a row have no markers.',
  gridPlace: 'Name an area of grid-template-areas, or lines that the grid has and no other item takes.',
  gridColumns:
    'The grid has fewer columns on these windows: write grid-column: auto for them, or 1 / -1 for all columns.',
  rowsBeside:
    'Beside an item over several rows write one column of others, or make two columns of flex with the items in them.',
  blocksOnceStacked:
    'Where it is no row its items would flow in one line: give them display: block there, or stack them by flex-direction: column.',
  lowBox: 'Its content runs over it on some windows, which a cell does not let it: write min-height.',
  lastMargin:
    'Take the margin below off its last element, or give it padding: whether that counts follows from how the text wraps.',
  floatAlone: 'Let text stand beside it, or leave it out.',
  unevenRows: 'Leave it out: a table shares a height out among its rows in another way.',
  alignByMargins: 'Write margin: 0 auto and a width, or align the text.',
  widthOfRow: 'Say how wide the row is, in px or %.',
  boundOfGrowing: 'Leave it out, or say how wide the column is: flex: 0 0 250px.',
  keepsInColumn: 'Let the text wrap, or give the picture max-width: 100%: it would push the column wider.',
  noScrolling: 'Nothing scrolls in a cell: let the text wrap, or give the picture max-width: 100%.',
  columnsLeast: 'On narrow windows the columns would not fit: stack them under @media (max-width: 480px).',
  longWord:
    'On narrow windows a word or address in it is longer than its column: stack the columns there, or write overflow-wrap: anywhere.',
  widerThanColumn: 'On narrow windows it is wider than its column: write max-width, or stack the columns there.',
  tableAsRow: 'Write a row of other elements: a table stays a table.',
  borderBox: 'Write box-sizing: border-box beside it, so that padding and border are within the width.',
  floatWidth: 'Make a row of it: display: flex on the element around, with a gap.',
  floatCleared: 'Let the element around hold it, by overflow: hidden or clear, or make a row of it: display: flex.',
  floatBesideText: 'Beside anything but text write a row: display: flex, with the picture as its first item.',
  gridEverywhere: 'Keep display: grid at all widths, or write a row with flex.',
  gridFlow: 'Leave it out: cells stand in the order of the source.',
  gridRows: 'Write auto for rows, and 1fr for one of them at the most: they are as high as their content.',
  fillRow: 'Let the columns fill the row: use 1fr.',
  gapInPixels: 'Write the gap between rows in px: a share is one of a height that nobody says.',
  hideGrid: 'Hide the whole grid, or what stands in the cell.',
  gridGap: 'Use gap on the grid, or padding inside the cell.',
  withinLine: 'Within a line of text use display: inline or inline-block, or make the element around it a block.',
  rowInNative: 'Rows do not work inside lists and hand-written tables: move the row out of it.',
  mediaQuery: 'Write it as in @media (max-width: 600px).',
  ownHover: 'Write :hover on the element itself that changes, and no other state.',
  equalEdges:
    'Columns of this paint that grow beside each other need equal weights, side padding and borders: give padding, border and background to a box inside the column.',
  wholeWeights: 'Beside columns in percent let the others grow by whole weights up to 12: flex: 1, flex: 2.',
  wrapNoStacking: 'Items that wrap need no stacking: leave it out.',
  equalLines:
    'Items that are painted are as high as their line: write align-items: flex-start, or display: grid with columns.',
  wrapSides: 'Items that wrap stand at the start, the center or the end.',
  rowGap: 'Use gap on the row.',
  itemOrder: 'Write the items in the order in which they are shown.',
  oneGrows: 'Beside columns as wide as their content let one column grow: flex: 1.',
  columnDirection: 'Write the columns in the order in which they stand, with flex-direction: row.',
  wrapEverywhere: 'Write flex-wrap: wrap for all widths, or for none.',
  widthOfLongText:
    'Say how wide the column is: flex: 1, or flex: 0 0 160px. A text this long would have to shrink, and by how much cannot be computed ahead.',
  pictureStretched:
    'A picture beside something higher is stretched to its height: write align-items: flex-start, or center.',
  stretchStacked: 'Write align-items: stretch beside flex-direction: column: stacked columns are as wide as the row.',
  wideSideBySide: 'Let the row stand side by side on wide screens, and stack on narrow ones.',
  oneDirection: 'Keep one direction at all widths, or stack the columns.',
  stackInsteadOfWrap:
    'Columns that grow do not wrap: stack them with @media (max-width: 600px) { … flex-direction: column }.',
  oneDistribution: 'Distribute the columns alike at all widths at which they stand side by side.',
  columnGap: 'Use gap on the row, or padding inside the column.',
  columnOrder:
    'Write the columns in the order in which they are shown, or turn all of them round: flex-direction: column-reverse.',
  basisOnceStacked: 'Once stacked it would be a height: reset it there with flex: none, and width: 100%.',
  weights: 'Use weights of 1 and more: flex: 1.',
  growOrWidth: 'Let a column either grow (flex: 1) or have a width (flex: 0 0 160px), not both.',
  widthOfText:
    'Say how wide the column is: flex: 1, or flex: 0 0 160px. A width that follows from the text cannot be computed ahead.',
  notTaken: (tag: string): string => `Leave it out, or say it for an element around or within this <${tag}>.`,
} as const;
