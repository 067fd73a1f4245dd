/** The thread of a `ThreadPool`: knows every heavy task of the areas, and nothing of the plant. */
import { planSheet } from '../define/plans/planSheetPdf'
import { answerTasks } from '../kernel/threads/answerTasks'
import { workbook } from '../kernel/workbook'
import { auditPaper } from '../people/auditPdf'
import { labelsPaper } from '../run/receiving/labelsPdf'
import { notePaper } from '../run/shipping/notePdf'
import { passportPaper } from '../trace/passport/passportPdf'
import { reportPaper } from '../trace/reports/reportPdf'
import { verifyTask } from './verifyTask'

answerTasks([auditPaper, labelsPaper, notePaper, passportPaper, planSheet, reportPaper, verifyTask, workbook])
