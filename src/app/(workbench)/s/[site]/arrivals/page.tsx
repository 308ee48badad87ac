import { ArrivalsScreen } from "@/workbench/arrivals/screen";

export default function Page() {
  return <ArrivalsScreen />;
}
