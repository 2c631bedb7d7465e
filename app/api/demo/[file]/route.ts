import { answerFile, type FileAsked } from '../answerFile';
import { demoFile } from '../demoFolder';

export const dynamic = 'force-dynamic';

/** One frame of the demo set. */
export const GET = (_request: Request, asked: FileAsked): Promise<Response> => answerFile(asked, demoFile);
