import type { Config } from '../config/config.js';

/** A project whose pictures go nowhere: who only looks sends nothing. */
export function withPicturesHere(config: Config): Config {
  const destinations = config.destinations.map((destination) =>
    destination.images.mode === 'host'
      ? { ...destination, images: { ...destination.images, mode: 'package' as const, baseUrl: null, upload: null } }
      : destination,
  );
  return { ...config, destinations };
}
