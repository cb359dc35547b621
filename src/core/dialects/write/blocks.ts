import type { Expression } from '../../expressions/expression.js';
import type { MergeTag } from '../model.js';

/** A tag, or a block with what is in it; tags are given by their numbers. */
export type Block = { readonly kind: 'tag'; readonly index: number } | IfBlock | EachBlock;

export interface IfBlock {
  readonly kind: 'if';
  readonly arms: readonly Arm[];
  readonly otherwise: Section | null;
  /** Null where the block is not closed. */
  readonly end: number | null;
}

export interface EachBlock {
  readonly kind: 'each';
  readonly index: number;
  readonly list: Expression;
  readonly item: string;
  readonly body: readonly Block[];
  readonly otherwise: Section | null;
  readonly end: number | null;
}

/** What stands behind a tag, up to the next arm of its block or to its end. */
export interface Section {
  readonly index: number;
  readonly body: readonly Block[];
}

export interface Arm extends Section {
  readonly condition: Expression;
}

/** A block that is being put together. */
interface Frame {
  readonly opening: number;
  readonly sections: { readonly index: number; readonly condition: Expression | null; readonly body: Block[] }[];
}

/** The blocks that tags make. Tags that belong to no block stand by themselves; they have been reported. */
export function blocksOf(tags: readonly MergeTag[]): Block[] {
  const top: Block[] = [];
  const frames: Frame[] = [];
  const body = (): Block[] => frames[frames.length - 1]?.sections.at(-1)?.body ?? top;
  tags.forEach((tag, index) => {
    const frame = frames[frames.length - 1];
    if (tag.kind === 'if' || tag.kind === 'each')
      frames.push({
        opening: index,
        sections: [{ index, condition: tag.kind === 'if' ? tag.condition : null, body: [] }],
      });
    else if (tag.kind === 'else-if' && frame !== undefined)
      frame.sections.push({ index, condition: tag.condition, body: [] });
    else if (tag.kind === 'else' && frame !== undefined) frame.sections.push({ index, condition: null, body: [] });
    else if (tag.kind === 'end' && frame !== undefined) {
      frames.pop();
      body().push(blockOf(tags, frame, index));
    } else body().push({ kind: 'tag', index });
  });
  while (frames.length > 0) {
    const frame = frames.pop();
    if (frame !== undefined) body().push(blockOf(tags, frame, null));
  }
  return top;
}

function blockOf(tags: readonly MergeTag[], { opening, sections }: Frame, end: number | null): Block {
  const tag = tags[opening];
  const otherwise = sections.slice(1).find(({ condition }) => condition === null) ?? null;
  if (tag?.kind === 'each') {
    const { list, item } = tag;
    return { kind: 'each', index: opening, list, item, body: sections[0]?.body ?? [], otherwise, end };
  }
  const arms = sections.flatMap(({ index, condition, body }) =>
    condition === null ? [] : [{ index, condition, body }],
  );
  return { kind: 'if', arms, otherwise, end };
}

/** The tags in a block, in order. */
export function tagsIn(blocks: readonly Block[]): number[] {
  const found: number[] = [];
  const visit = (inner: readonly Block[]): void => {
    for (const block of inner) {
      if (block.kind === 'tag') {
        found.push(block.index);
        continue;
      }
      const sections = block.kind === 'if' ? block.arms : [{ index: block.index, body: block.body }];
      for (const { index, body } of [...sections, ...(block.otherwise === null ? [] : [block.otherwise])]) {
        found.push(index);
        visit(body);
      }
      if (block.end !== null) found.push(block.end);
    }
  };
  visit(blocks);
  return found;
}

/** The text between two tags, which goes with a block that is lost. */
export interface Removal {
  readonly from: number;
  readonly to: number;
}

/** What is left out of a block of which one section stays, or none. */
export function removalsOf(block: IfBlock | EachBlock, kept: number | null): Removal[] {
  const sections = block.kind === 'if' ? block.arms : [{ index: block.index }];
  const starts = [...sections, ...(block.otherwise === null ? [] : [block.otherwise])].map(({ index }) => index);
  return starts.flatMap((from, number) => {
    const to = starts[number + 1] ?? block.end;
    return from === kept || to === null ? [] : [{ from, to }];
  });
}
