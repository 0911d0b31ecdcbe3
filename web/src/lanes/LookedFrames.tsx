import type { Failed, MeasuredCase, Painted, ShownCase } from "../../preview/messages";
import type { Schema } from "../api/client";
import { BuiltFrame } from "./BuiltFrame";
import { textOf } from "./shown";

interface Props {
  /** Address of the build on the preview origin. */
  src: string;
  title: string;
  cases: Schema["Looked"][];
  /** How each is shown; nothing for one that is not. */
  show: (one: Schema["Looked"], place: number) => ShownCase | undefined;
  width: number;
  height: number;
  scale?: number;
  paint?: boolean;
  onMeasured?: (cases: MeasuredCase[]) => void;
  onPainted?: (text: number, painted: Painted) => void;
  onFailed?: (failure: Failed) => void;
}

/** Cases running in what each is looked at in: a frame for every size of text, one upon the other. */
export function LookedFrames({ cases, show, title, onPainted, ...rest }: Props) {
  const sizes = [...new Set(cases.map((c) => textOf(c.look)))];
  return sizes.map((text) => (
    <BuiltFrame
      key={text}
      title={text === 100 ? title : `${title}, text at ${text} %`}
      text={text}
      cases={cases.flatMap((c, i) => (textOf(c.look) === text ? [show(c, i)] : [])).filter((c) => c !== undefined)}
      onPainted={onPainted && ((painted) => onPainted(text, painted))}
      {...rest}
    />
  ));
}
