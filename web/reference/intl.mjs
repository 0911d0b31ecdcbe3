// Writes dates and numbers as the platform's Intl does (CLDR). Standard input: {"dates": [{tag, style, year, month, day}, …], "numbers": [{tag, value}, …]}; standard output: {"dates", "numbers"}.
const { dates, numbers } = JSON.parse(await new Response(process.stdin).text());
console.log(
  JSON.stringify({
    dates: dates.map((d) => new Intl.DateTimeFormat(d.tag, { dateStyle: d.style, timeZone: "UTC" }).format(Date.UTC(d.year, d.month - 1, d.day))),
    numbers: numbers.map((n) => new Intl.NumberFormat(n.tag, { maximumFractionDigits: 20 }).format(n.value)),
  }),
);
