import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  checked,
  jobCreatedSchema,
  machineJobSchema,
  machineSchema,
  practiceClothsSchema,
  type Machine,
  type MachineAction,
  type MachineJob,
  type MachineSettings,
  type PracticeClothName,
} from '@open-kite/contract';
import { readStitchList, type Sewing } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import { array, type Schema } from 'yup';
import { told } from '../api/api';

const ROOT = '/api/machine';
const jobsSchema = array(machineJobSchema).required() as unknown as Schema<MachineJob[]>;

/** Talks to the practice machine. */
@Injectable({ providedIn: 'root' })
export class MachineApi {
  private readonly http = inject(HttpClient);

  machine(): Promise<Machine> {
    return firstValueFrom(told(this.http.get<Machine>(ROOT), machineSchema));
  }

  jobs(): Promise<MachineJob[]> {
    return firstValueFrom(told(this.http.get<MachineJob[]>(`${ROOT}/jobs`), jobsSchema));
  }

  configure(settings: MachineSettings): Promise<Machine> {
    return firstValueFrom(told(this.http.put<Machine>(ROOT, settings), machineSchema));
  }

  act(id: string, action: MachineAction): Promise<MachineJob> {
    return firstValueFrom(told(this.http.post<MachineJob>(`${ROOT}/jobs/${id}/actions`, { action }), machineJobSchema));
  }

  /** What a job sews. */
  async list(id: string): Promise<Sewing> {
    const answer = this.http.get(`${ROOT}/jobs/${id}/list`, { responseType: 'text' });
    return readStitchList(await firstValueFrom(told(answer)));
  }

  /** Cloths what was sewn can be photographed on. */
  cloths(): Promise<PracticeClothName[]> {
    return firstValueFrom(told(this.http.get<PracticeClothName[]>(`${ROOT}/cloths`), practiceClothsSchema));
  }

  /** What a job has sewn, photographed on a cloth. */
  photo(id: string, cloth: string): Promise<Blob> {
    const seed = 1 + (Date.now() % 1000);
    const address = `${ROOT}/jobs/${encodeURIComponent(id)}/photo`;
    return firstValueFrom(told(this.http.get(address, { params: { cloth, seed }, responseType: 'blob' })));
  }

  /** Hands a stitch list over. @returns the job's id */
  async send(name: string, list: Blob): Promise<string> {
    const address = `${ROOT}/jobs?name=${encodeURIComponent(name)}`;
    const body = new Blob([list], { type: 'text/csv' });
    const { id } = await firstValueFrom(told(this.http.post<{ id: string }>(address, body), jobCreatedSchema));
    return id;
  }

  /** Hears of every change of the job under the needle. @returns what ends that */
  listen(hear: (job: MachineJob) => void, lost: () => void): () => void {
    const events = new EventSource(`${ROOT}/events`);
    events.addEventListener('job', ({ data }: MessageEvent<string>) => {
      hear(checked(machineJobSchema, JSON.parse(data)));
    });
    events.onerror = lost;
    return () => events.close();
  }
}
