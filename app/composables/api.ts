import type { NewProof, Project, ProjectState, ProjectSummary, Proof, SaveConflict } from '../../shared/api'

/** The server's routes as functions. */
export const api = {
  projects: () => $fetch<ProjectSummary[]>('/api/projects'),
  project: (id: string) => $fetch<Project>(`/api/projects/${id}`),
  create: (name: string, state: ProjectState) => $fetch<Project>('/api/projects', { method: 'POST', body: { name, state } }),
  /** Saves a version; a conflict is an answer, not an error. */
  async save(id: string, base: number, state: ProjectState): Promise<{ number: number } | { conflict: SaveConflict }> {
    return $fetch<{ number: number } | { conflict: SaveConflict }>(`/api/projects/${id}/versions`, { method: 'POST', body: { base, state }, ignoreResponseError: true, onResponse({ response }) {
      if (!response.ok && response.status !== 409) throw Object.assign(new Error(response._data?.message ?? `The server answered ${response.status}.`))
    } })
  },
  proofs: (id: string) => $fetch<Proof[]>(`/api/projects/${id}/proofs`),
  keepProof: (id: string, proof: NewProof) => $fetch<Proof>(`/api/projects/${id}/proofs`, { method: 'POST', body: proof }),
  removeProof: (id: string, proof: string) => $fetch(`/api/projects/${id}/proofs/${proof}`, { method: 'DELETE' }),
  async putAsset(bytes: Uint8Array, name: string): Promise<string> {
    const r = await $fetch<{ hash: string }>('/api/assets', { method: 'POST', query: { name }, body: new Blob([bytes as Uint8Array<ArrayBuffer>]), headers: { 'content-type': 'application/octet-stream' } })
    return r.hash
  },
  async asset(hash: string): Promise<Uint8Array> {
    return new Uint8Array(await $fetch<ArrayBuffer>(`/api/assets/${hash}`, { responseType: 'arrayBuffer' }))
  },
}
