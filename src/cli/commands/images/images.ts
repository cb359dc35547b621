import { group } from '../../io/command.js';
import { embed } from './embed.js';
import { fetchPictures } from './fetch.js';
import { host } from './host.js';
import { shrink } from './shrink.js';

/** `images`. */
export const images = group({
  name: 'images',
  description:
    'Works on the pictures of finished HTML: those of elements, backgrounds and vector shapes, in comments for one engine too. Every byte outside of their addresses stays.',
  commands: [embed, host, fetchPictures, shrink],
});
