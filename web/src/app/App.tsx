import { server } from "../api/queries";
import { Button } from "../ui/Button";
import { useQuery } from "@tanstack/react-query";
import { Navigate, Route, Routes } from "react-router";
import { AboutView } from "../views/account/AboutView";
import { AccountView } from "../views/account/AccountView";
import { BakeDoor } from "../views/bake/BakeDoor";
import { BakeView } from "../views/bake/BakeView";
import { DoughView } from "../views/dough/DoughView";
import { LogbookView } from "../views/logbook/LogbookView";
import { DialView } from "../views/kitchen/DialView";
import { InstrumentView } from "../views/kitchen/InstrumentView";
import { KitchenView } from "../views/kitchen/KitchenView";
import { MatchView } from "../views/match/MatchView";
import { PlanView } from "../views/plan/PlanView";
import { NewPasswordView, VerifyView } from "../views/sign-in/ByMail";
import { SignInView } from "../views/sign-in/SignInView";
import { StyleView } from "../views/style/StyleView";
import { TimelineView } from "../views/timeline/TimelineView";
import { NEW, partPath } from "../supper/draft";
import { DoughDoor, OldTimeline, PlanDoor, SupperDoor } from "../supper/SupperDoor";
import { NewVersion } from "./NewVersion";
import { Reminder } from "./NextStep";
import { OutboxNotice, OutboxProvider } from "./OutboxProvider";
import { Rail } from "./Rail";
import { UndoProvider } from "./Undo";
import { ShortcutsHelp } from "./ShortcutsHelp";

export function App() {
  const session = useQuery(server.session);
  if (session.isPending)
    return <main className="grid h-full place-items-center text-ash waiting">Mattone</main>;
  if (session.isError && session.data === undefined)
    return (
      <main className="grid h-full place-content-center gap-3 text-center">
        <p role="alert">{session.error.message}</p>
        <Button look="press" onClick={() => void session.refetch()}>
          Try again
        </Button>
      </main>
    );
  if (session.data == null)
    return (
      <Routes>
        <Route path="/password/:key" element={<NewPasswordView />} />
        <Route path="/verify/:key" element={<VerifyView />} />
        <Route path="*" element={<SignInView />} />
      </Routes>
    );
  return (
    <OutboxProvider key={session.data.owner} owner={session.data.owner}>
      <UndoProvider>
        <div className="flex min-h-full flex-col md:h-full md:flex-row">
          <Rail email={session.data.email} />
          <div className="min-w-0 flex-1 md:overflow-y-auto">
            <OutboxNotice />
            <NewVersion />
            <Routes>
              <Route path="/kitchen" element={<KitchenView />} />
              <Route path="/kitchen/dial/:thingId" element={<DialView />} />
              <Route path="/kitchen/instrument/:thingId" element={<InstrumentView />} />
              <Route path="/match" element={<MatchView owner={session.data.owner} />} />
              <Route path="/match/style/:styleKey" element={<StyleView />} />
              <Route path="/supper/:supperId/plan" element={<PlanView />} />
              <Route path="/supper/:supperId/dough" element={<DoughView />} />
              <Route path="/supper/:supperId/timeline" element={<TimelineView />} />
              <Route path="/plan" element={<SupperDoor part="plan" />} />
              <Route path="/plan/:planId" element={<PlanDoor />} />
              <Route path="/dough" element={<SupperDoor part="dough" />} />
              <Route path="/dough/new" element={<Navigate to={partPath(NEW, "dough")} replace />} />
              <Route path="/dough/:doughId" element={<DoughDoor />} />
              <Route path="/timeline" element={<SupperDoor part="timeline" />} />
              <Route path="/timeline/:supperId" element={<OldTimeline />} />
              <Route path="/bake" element={<BakeDoor />} />
              <Route path="/bake/:bakeId" element={<BakeView />} />
              <Route path="/logbook" element={<LogbookView />} />
              <Route path="/logbook/:entryId" element={<LogbookView />} />
              <Route path="/account" element={<AccountView email={session.data.email} />} />
              <Route path="/about" element={<AboutView />} />
              <Route path="*" element={<Navigate to="/plan" replace />} />
            </Routes>
          </div>
          <Reminder />
          <ShortcutsHelp />
        </div>
      </UndoProvider>
    </OutboxProvider>
  );
}
