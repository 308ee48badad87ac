import { PlacesScreen } from "@/workbench/places/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const metadata = titleOf("/places");

export default function Page() {
  return <PlacesScreen />;
}
