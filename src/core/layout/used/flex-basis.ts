import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ComputedValue } from '../../css/values/computed-value.js';

/** How wide an item of a row says that it is before it grows or shrinks (CSS Flexible Box Layout 1, 7.2.3), to look at. */
export function basisOf(item: ComputedStyle): ComputedValue {
  const basis = item.value('flex-basis');
  return basis.text === 'auto' ? item.value('width') : basis;
}

/** The same as `basisOf`, for an emitter that writes what it does. */
export function takeBasis(item: ComputedStyle): ComputedValue {
  const basis = item.takeValue('flex-basis');
  return basis.text === 'auto' ? item.takeValue('width') : basis;
}
