import { OffersScreen } from "@/workbench/offers/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/offers");

export default function Page() {
  return <OffersScreen />;
}
