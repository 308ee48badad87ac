import { readForm, seeOther } from "../../../../../shop/forms";
import { keepLetterAddress } from "../../../../../shop/letters";

/** Somebody asks for the letter. What was typed wrongly comes back to be mended. */
export async function POST(request: Request): Promise<Response> {
  const address = String((await readForm(request)).get("address") ?? "")
    .trim()
    .slice(0, 200);
  if (!/^[^\s@]+@[^\s@.]+(\.[^\s@.]+)+$/.test(address))
    return seeOther(`/letter?said=wrong&address=${encodeURIComponent(address)}`);
  await keepLetterAddress(address);
  return seeOther("/letter?said=thanks");
}
