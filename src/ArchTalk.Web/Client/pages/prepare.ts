import { boards } from "../prepare/boards";
import { details } from "../prepare/details";
import { references } from "../prepare/references";
import { task } from "../prepare/task";
import { vocabulary } from "../prepare/vocabulary";
import { start } from "../shared/alpine";
import { tabs } from "../shared/tabs";

start({ boards, details, vocabulary, references, task, tabs: () => tabs("details") });
