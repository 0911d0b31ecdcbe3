import type { Failed } from "../../../preview/messages";
import { type Schema, useBoard, useStress } from "../../api/client";
import { releaseAddress } from "../../lanes/address";
import { Query } from "../../ui/States";
import { count } from "../../ui/count";
import { Board } from "./Board";

interface Props {
  bench: Schema["Bench"];
  shown: Schema["CaseView"];
  src: string;
  onFailed: (failure: Failed) => void;
}

const troubled = (list: Schema["Looked"][]) => list.filter((c) => c.troubles.length > 0).length;

function words(list: Schema["Looked"][]) {
  const n = troubled(list);
  return n === 0 ? `nothing breaks in ${count(list.length, "case")}` : `${count(n, "case is", "cases are")} in trouble`;
}

/** One case under what people and data do to it, with what breaks. */
export function StressBoard({ bench, shown, ...rest }: Props) {
  const stress = useStress(bench.slug, bench.build, shown.key);
  return (
    <Query query={stress} what="what it should bear">
      {(list) => <Board title="Stress" note={`${shown.name}: ${words(list)}`} themes={bench.themes} list={list} {...rest} />}
    </Query>
  );
}

/** Every case at once, in what is pinned, with troubles marked and what differs from the newest release. */
export function CasesBoard({
  bench,
  shown,
  look,
  preview,
  onChoose,
  ...rest
}: Props & { look: Schema["Look"]; preview: string; onChoose: (key: string) => void }) {
  const board = useBoard(bench.slug, bench.build, look);
  return (
    <Query query={board} what="the cases">
      {({ cases, combined, release }) => (
        <Board
          title="Every case"
          note={`${count(cases.length, "case")}${combined > cases.length ? `, every pair of values of ${combined} combinations` : ""}: ${words(cases)}`}
          themes={bench.themes}
          list={cases}
          release={release ? { version: release, src: releaseAddress(preview, bench.slug, release) } : undefined}
          chosen={shown.key}
          onChoose={onChoose}
          {...rest}
        />
      )}
    </Query>
  );
}
