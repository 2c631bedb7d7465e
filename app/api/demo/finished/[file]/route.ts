import { answerFile, type FileAsked } from '../../answerFile';
import { finishedFile } from '../../demoFolder';

export const dynamic = 'force-dynamic';

/** The recipe of a finished demo set, or its small picture. */
export const GET = (_request: Request, asked: FileAsked): Promise<Response> =>
  answerFile(asked, finishedFile);
