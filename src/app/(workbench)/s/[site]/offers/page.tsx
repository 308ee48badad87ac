import { OffersScreen } from "@/workbench/offers/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const metadata = titleOf("/offers");

export default function Page() {
  return <OffersScreen />;
}
