import { PlacesScreen } from "@/workbench/places/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/places");

export default function Page() {
  return <PlacesScreen />;
}
