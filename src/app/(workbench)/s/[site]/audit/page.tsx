import { AuditScreen } from "@/workbench/audit/screen";

export default function Page() {
  return <AuditScreen />;
}
