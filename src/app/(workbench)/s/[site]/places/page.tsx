import { PlacesScreen } from "@/workbench/places/screen";

export default function Page() {
  return <PlacesScreen />;
}
