import type { Faults } from "../../shared/faults";
import type { Loading } from "../../shared/loading";
import type { Stepping } from "../../shared/stepping";
import type { Tabs } from "../../shared/tabs";
import type { about } from "./about";
import type { actions } from "./actions";
import type { adding } from "./adding";
import type { clipboard } from "./clipboard";
import type { corners } from "./corners";
import type { fields } from "./fields";
import type { formula } from "./formula";
import type { labels } from "./labels";
import type { working } from "./panels";
import type { scan } from "./scan";
import type { seen } from "./seen";
import type { selection } from "./selection";
import type { setup } from "./setup";
import type { table } from "./table";
import type { writing } from "./writing";

/** The board page: what each of its parts sees as `this`. */
export interface BoardPage
  extends Faults, Loading, Stepping, Tabs,
    ReturnType<typeof setup>, ReturnType<typeof selection>, ReturnType<typeof fields>, ReturnType<typeof adding>,
    ReturnType<typeof writing>, ReturnType<typeof formula>, ReturnType<typeof table>, ReturnType<typeof actions>,
    ReturnType<typeof clipboard>, ReturnType<typeof labels>, ReturnType<typeof about>, ReturnType<typeof scan>, ReturnType<typeof corners>,
    ReturnType<typeof seen>, ReturnType<typeof working> {}
