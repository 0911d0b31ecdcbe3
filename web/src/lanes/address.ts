import { isStatic } from "../ui/static";

/** Where a build of a component runs: on the preview origin, or in a file of its own in a catalogue without a server. */
export const buildAddress = (preview: string, slug: string, build: string) =>
  isStatic ? `frames/${slug}.html` : `${preview}/${slug}/${build}/`;

/** Where a version that was released runs. */
export const releaseAddress = (preview: string, slug: string, version: string) =>
  `${preview}/${slug}/release/?release=${encodeURIComponent(version)}`;

/** Where a component runs as the repository has it at a commit. */
export const codeAddress = (preview: string, slug: string, commit: string) => `${preview}/${slug}/code/?code=${encodeURIComponent(commit)}`;
