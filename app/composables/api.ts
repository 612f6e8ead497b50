import type {
  Draft,
  DraftSummary,
  FrameList,
  NewDraft,
  NewFrames,
  NewProof,
  Project,
  ProjectState,
  ProjectSummary,
  Proof,
  ProofEdit,
  SaveConflict,
  SpecimenUses,
  VersionSummary,
} from '../../shared/api'

/** The server's routes as functions. */
export const api = {
  specimenUses: () => $fetch<SpecimenUses>('/api/library/uses'),
  projects: () => $fetch<ProjectSummary[]>('/api/projects'),
  version: (id: string, version: number) => $fetch<Project>(`/api/projects/${id}`, { query: { version } }),
  versions: (id: string) => $fetch<VersionSummary[]>(`/api/projects/${id}/versions`),
  rename: (id: string, name: string) => $fetch(`/api/projects/${id}`, { method: 'PATCH', body: { name } }),
  copy: (id: string) => $fetch<Project>(`/api/projects/${id}/copy`, { method: 'POST' }),
  remove: (id: string) => $fetch(`/api/projects/${id}`, { method: 'DELETE' }),
  bringBack: (id: string) => $fetch(`/api/projects/${id}/restore`, { method: 'POST' }),
  drafts: (id: string) => $fetch<DraftSummary[]>(`/api/projects/${id}/drafts`),
  draft: (id: string, tab: string) => $fetch<Draft>(`/api/projects/${id}/drafts/${tab}`),
  keepDraft: (id: string, tab: string, draft: NewDraft) =>
    $fetch(`/api/projects/${id}/drafts/${tab}`, { method: 'PUT', body: draft }),
  dropDraft: (id: string, tab: string) => $fetch(`/api/projects/${id}/drafts/${tab}`, { method: 'DELETE' }),
  create: (name: string, state: ProjectState) =>
    $fetch<Project>('/api/projects', { method: 'POST', body: { name, state } }),
  /** Saves a version; a conflict is an answer, not an error. */
  async save(
    id: string,
    base: number,
    state: ProjectState,
    note = '',
    thumbnail: string | null = null,
  ): Promise<{ number: number } | { conflict: SaveConflict }> {
    return $fetch<{ number: number } | { conflict: SaveConflict }>(`/api/projects/${id}/versions`, {
      method: 'POST',
      body: { base, state, note, thumbnail },
      ignoreResponseError: true,
      onResponse({ response }) {
        if (!response.ok && response.status !== 409)
          throw Object.assign(new Error(response._data?.message ?? `The server answered ${response.status}.`))
      },
    })
  },
  proofs: (id: string) => $fetch<Proof[]>(`/api/projects/${id}/proofs`),
  proofState: (id: string, proof: string) => $fetch<ProjectState>(`/api/projects/${id}/proofs/${proof}/state`),
  keepProof: (id: string, proof: NewProof) =>
    $fetch<Proof>(`/api/projects/${id}/proofs`, { method: 'POST', body: proof }),
  editProof: (id: string, proof: string, edit: ProofEdit) =>
    $fetch<Proof>(`/api/projects/${id}/proofs/${proof}`, { method: 'PATCH', body: edit }),
  removeProof: (id: string, proof: string) => $fetch(`/api/projects/${id}/proofs/${proof}`, { method: 'DELETE' }),
  frames: () => $fetch<FrameList>('/api/frames'),
  addFrames: (id: string, frames: NewFrames) =>
    $fetch<{ ids: string[] }>(`/api/projects/${id}/frames`, { method: 'POST', body: frames }),
  stopAllFrames: () => $fetch<{ stopped: number }>('/api/frames/stop', { method: 'POST' }),
  retryFrame: (id: string) => $fetch(`/api/frames/${id}/retry`, { method: 'POST' }),
  stopFrame: (id: string) => $fetch(`/api/frames/${id}/stop`, { method: 'POST' }),
  frameAsProof: (id: string) => $fetch<Proof>(`/api/frames/${id}/proof`, { method: 'POST' }),
  removeFrame: (id: string) => $fetch(`/api/frames/${id}`, { method: 'DELETE' }),
  async putAsset(bytes: Uint8Array, name: string): Promise<string> {
    const r = await $fetch<{ hash: string }>('/api/assets', {
      method: 'POST',
      query: { name },
      body: new Blob([bytes as Uint8Array<ArrayBuffer>]),
      headers: { 'content-type': 'application/octet-stream' },
    })
    return r.hash
  },
  async asset(hash: string): Promise<Uint8Array> {
    return new Uint8Array(await $fetch<ArrayBuffer>(`/api/assets/${hash}`, { responseType: 'arrayBuffer' }))
  },
}
