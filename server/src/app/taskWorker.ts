/** The thread of a `ThreadPool`: knows every heavy task of the areas, and nothing of the plant. */
import { planSheet } from '../define/planSheetPdf'
import { answerTasks } from '../kernel/answerTasks'
import { workbook } from '../kernel/workbook'
import { auditPaper } from '../people/auditPdf'
import { labelsPaper } from '../run/labelsPdf'
import { notePaper } from '../run/notePdf'
import { passportPaper } from '../trace/passportPdf'
import { reportPaper } from '../trace/reportPdf'
import { verifyTask } from './verifyTask'

answerTasks([auditPaper, labelsPaper, notePaper, passportPaper, planSheet, reportPaper, verifyTask, workbook])
