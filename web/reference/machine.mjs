// Runs machines as xstate does: what each step says on its way, the states it ends in, and what became of n.
import { assign, createActor, createMachine, raise } from "xstate";

const { cases } = JSON.parse(await new Response(process.stdin).text());

/** A machine of core/behaviour as one of xstate's. Only n is kept, and counted. */
function machineOf(m, log) {
  const guards = { "n < 2": ({ context }) => context.n < 2, "n == 1": ({ context }) => context.n === 1, "n > 2": ({ context }) => context.n > 2 };
  const actions = (list) =>
    (list ?? []).map((a) => {
      if (a.assign) return assign({ n: ({ context }) => (context.n + 1) % 4 });
      if (a.raise) return raise({ type: a.raise });
      return () => log.push(a.tell);
    });
  const transition = (t) => ({
    target: t.to?.map((id) => `#${id}`),
    guard: t.if ? guards[t.if] : undefined,
    actions: actions(t.do),
    reenter: !t.internal,
  });
  const state = (s) => {
    if (s.kind === "history" || s.kind === "deep history")
      return { id: s.id, type: "history", history: s.kind === "history" ? "shallow" : "deep", target: `#${s.defaults[0]}` };
    const on = {};
    for (const t of s.on ?? []) if (t.event) (on[t.event.name] ??= []).push(transition(t));
    const states = Object.fromEntries((s.states ?? []).map((c) => [c.id, state(c)]));
    const held = (s.states ?? []).filter((c) => !c.kind?.includes("history"));
    return {
      id: s.id,
      type: s.kind === "parallel" ? "parallel" : undefined,
      initial: s.kind === "parallel" || held.length === 0 ? undefined : held[0].id,
      states,
      on,
      always: (s.on ?? []).filter((t) => !t.event).map(transition),
      entry: actions(s.entry),
      exit: actions(s.exit),
    };
  };
  return createMachine({ ...state(m.root), context: { n: 0 } });
}

const out = cases.map(({ machine, events }) => {
  const log = [];
  const actor = createActor(machineOf(machine, log));
  const steps = [];
  const note = () => {
    const s = actor.getSnapshot();
    steps.push({ active: s._nodes.map((n) => n.id).sort(), n: s.context.n, log: log.splice(0) });
  };
  actor.start();
  note();
  for (const type of events) {
    actor.send({ type });
    note();
  }
  return steps;
});
process.stdout.write(JSON.stringify(out));
