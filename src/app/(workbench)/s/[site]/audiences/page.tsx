import { AudiencesScreen } from "@/workbench/audiences/screen";

export default function Page() {
  return <AudiencesScreen />;
}
