import type { components } from './schema'

type Schemas = components['schemas']

export type Batch = Schemas['Batch']
export type BatchOrder = Schemas['BatchOrder']
export type BatchState = NonNullable<Schemas['BatchChange']['state']>
export type Caller = Schemas['Caller']
export type Day = Schemas['Day']
export type Delivery = Schemas['Delivery']
export type DeliveryInput = Schemas['DeliveryInput']
export type DocumentDetail = Schemas['DocumentDetail']
export type DocumentState = Schemas['Change']['state']
export type DocumentOrder = Schemas['DocumentOrder']
export type DocumentRow = Schemas['Document']
export type Entry = Schemas['Entry']
export type Event = Schemas['Event']
export type FileBody = Schemas['FileInput']
export type FileDifference = Schemas['FileDifference']
export type Finding = Schemas['Finding']
export type Font = Schemas['ShelfFont']
export type Happening = NonNullable<Schemas['HookInput']['events']>[number]
export type Hook = Schemas['Hook']
export type HookInput = Schemas['HookInput']
export type Imported = Schemas['Imported']
export type Item = Schemas['BatchItem']
export type Key = Schemas['Key']
export type LoggedIn = Schemas['LoggedIn']
export type Overview = Schemas['Overview']
export type Person = Schemas['Person']
export type PersonInput = Schemas['PersonInput']
export type AppliedRule = Schemas['AppliedRule']
export type Probe = Schemas['Probe']
export type Probed = Schemas['Probed']
export type RecordRow = Schemas['RecordRow']
export type RecordSet = Schemas['RecordSet']
export type Rendering = Schemas['Rendering']
export type Series = Schemas['Series']
export type Setup = Schemas['Setup']
export type Trial = Schemas['Trial']
export type Way = DeliveryInput['kind']
export type Share = Schemas['Share']
export type Sheet = Schemas['Sheet']
export type Starter = Schemas['Starter']
export type TemplateFiles = Schemas['TemplateFiles']
export type TemplateRow = Schemas['Template']
export type Version = Schemas['Version']

/** Pages as they come, with the PDF's bytes. */
export type Rendered = Omit<Schemas['Rendered'], 'pdf'> & { pdf: ArrayBuffer }

/** A page of a list. */
export interface List<T> {
  items: T[]
  total: number
}

export type Files = Record<string, FileBody>
