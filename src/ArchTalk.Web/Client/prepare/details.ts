import { fromLines, sectionOf, toLines } from "./section";

interface Details {
  language: string;
  otherLanguages: string[];
  ageGroup: string;
  aims: string[];
  before: string;
  notCovered: string;
  agenda: string[];
  ready: string;
  contact: string;
  organiserBoard: string | null;
}

type Form = Omit<Details, "otherLanguages" | "aims" | "agenda" | "organiserBoard"> & {
  otherLanguages: string;
  aims: string;
  agenda: string;
  organiserBoard: string;
};

const blank = (): Form => ({
  language: "en",
  otherLanguages: "",
  ageGroup: "",
  aims: "",
  before: "",
  notCovered: "",
  agenda: "",
  ready: "",
  contact: "",
  organiserBoard: "",
});

export const details = () =>
  sectionOf<Details, Form>(
    "Details",
    blank,
    (d) => ({
      ...d,
      otherLanguages: d.otherLanguages.join(", "),
      aims: toLines(d.aims),
      agenda: toLines(d.agenda),
      organiserBoard: d.organiserBoard ?? "",
    }),
    (f) => ({
      ...f,
      otherLanguages: f.otherLanguages.split(/[,;\s]+/).filter(Boolean),
      aims: fromLines(f.aims),
      agenda: fromLines(f.agenda),
      organiserBoard: f.organiserBoard || null,
    }),
  );
