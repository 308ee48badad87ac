/** A form service of somebody else: asks three questions, and hands the answers over in the link to the shop. */

const choices = [
  { id: "shade", name: "A shady corner" },
  { id: "window", name: "A sunny window" },
  { id: "balcony", name: "A windy balcony" },
];

/** The link to the shop that carries the answers. Empty answers are left out. */
export function quizLink(answers: URLSearchParams, shop: string): string {
  const link = new URL("/", shop);
  const name = (answers.get("first_name") ?? "").trim().slice(0, 60);
  const choice = choices.find((item) => item.id === answers.get("choice"));
  const pots = Number(answers.get("pots") ?? NaN);
  if (name) link.searchParams.set("first_name", name);
  if (choice) link.searchParams.set("choice", choice.name.toLowerCase());
  if (Number.isInteger(pots) && pots > 0) link.searchParams.set("pots", String(Math.min(pots, 99)));
  link.searchParams.set("utm_source", "quiz");
  return link.href;
}

export function Quiz() {
  return (
    <main>
      <h1>Which plant are you?</h1>
      <p>Three questions, half a minute. Your answers go with you to the nursery, in the link.</p>
      <form method="get" action="/answers">
        <label>
          What may we call you?
          <input name="first_name" maxLength={60} autoComplete="given-name" />
        </label>
        <fieldset>
          <legend>Where will it live?</legend>
          {choices.map((item) => (
            <label key={item.id}>
              <input type="radio" name="choice" value={item.id} required /> {item.name}
            </label>
          ))}
        </fieldset>
        <label>
          How many pots have you room for?
          <input name="pots" type="number" min={1} max={99} defaultValue={2} />
        </label>
        <button>Show me my plant</button>
        <button name="lens" value="yes" formTarget="mirada-workbench" className="quietly">
          View as this visitor
        </button>
      </form>
      <footer>A stand-in for a form service. Nothing is kept here.</footer>
    </main>
  );
}
