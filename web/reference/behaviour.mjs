// Runs the reducers of emitted behaviours: what each step ends in, and who was told what. Standard input: {"cases": [{code, name, given, steps: [{event, heard}]}]}; code is a
// classic script that leaves the module's exports in globalThis.cobrikComponent.
import vm from "node:vm";

const { cases } = JSON.parse(await new Response(process.stdin).text());
const answers = cases.map(({ code, name, given, steps }) => {
  const context = vm.createContext({ cobrikModules: { react: {}, "react/jsx-runtime": {}, "react-dom": {} } });
  vm.runInContext(code, context);
  const component = context.cobrikComponent;
  let state = component[`begin${name}`](given);
  const out = [{ state, told: [], same: false }];
  for (const { event, heard, given: changed } of steps) {
    Object.assign(given, changed);
    const [to, told] = component[`next${name}`](state, event, given, heard ?? {});
    const heardBy = [];
    const user = new Proxy({}, { get: (_, key) => (...args) => heardBy.push(args.length > 0 ? { tell: key, with: args[0] } : { tell: key }) });
    for (const tell of told) tell(user);
    out.push({ state: to, told: heardBy, same: to === state });
    state = to;
  }
  return out;
});
console.log(JSON.stringify(answers));
