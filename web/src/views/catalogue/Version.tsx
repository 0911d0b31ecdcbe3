import type { Schema } from "../../api/client";
import { buildAddress, releaseAddress } from "../../lanes/address";
import { Running } from "../../lanes/Running";

interface Props {
  slug: string;
  /** A version that was released; nothing for the component as it is now. */
  version?: string;
  /** Names the build as it is now. */
  build?: string;
  shown: Schema["CaseView"];
  /** What it is rendered with, where that is not what the case gives now. */
  props?: Record<string, unknown>;
  theme: Schema["LookTheme"] | undefined;
  preview: string;
}

/** A case as one version of the component shows it, running. */
export function Version({ slug, version, build, preview, ...rest }: Props) {
  const src = version ? releaseAddress(preview, slug, version) : buildAddress(preview, slug, build ?? "");
  return <Running src={src} caption={version ?? "now"} {...rest} />;
}
