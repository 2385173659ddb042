import type { Dice } from '@zubrell/core/testing/dice';

/** What made-up names of a language are put together from. */
export interface Tongue {
  readonly starts: string;
  readonly ends: string;
  /** Trades that stand behind a name; several payees share them. */
  readonly trades: string;
  readonly forms: string;
  readonly first: string;
  readonly towns: string;
  /** Words a bank puts before a card payment, a debit, a transfer, a credit. */
  readonly card: string;
  readonly debit: string;
  readonly transfer: string;
  readonly credit: string;
  readonly refund: string;
}

export const TONGUES = {
  english: {
    starts: 'brack win thor hazel mor penn stan oak rush fal ket lind marsh quin sed tarn wold yar',
    ends: 'ley wick combe stow den by mere thorpe gate ridge holt bury stead worth',
    trades:
      'supplies garage foods hardware print hosting insurance bakery timber energy courier cleaning cafe tools water telecom books nursery',
    forms: 'LTD LLP CO GROUP',
    first: 'ADA BEN CLEO DORA EWAN FINN GRETA HUGO IRIS JON KATE LIAM',
    towns: 'NORTHWOLD|EASTMERE|LOWER FAL|STOKE HAZEL|TARNSIDE|HIGH QUIN',
    card: 'CARD PAYMENT TO|CRD|POS|CARD PURCH',
    debit: 'DIRECT DEBIT|DD|D/D',
    transfer: 'FAST PYT|BILL PAYMENT|TFR',
    credit: 'CREDIT|BGC|RECEIVED',
    refund: 'REFUND',
  },
  german: {
    starts: 'berg wald stein linden eich grün hohen kalt moos neu ober rot sand tal unter wies',
    ends: 'hausen bach dorf feld hof mühle brunn stätt au kirchen furt',
    trades:
      'bürobedarf werkstatt lebensmittel eisenwaren druckerei versicherung bäckerei holzhandel stadtwerke spedition reinigung gasthaus werkzeuge telefon gärtnerei verlag',
    forms: 'GMBH|AG|KG|EK|GMBH & CO KG',
    first: 'ANNA BRUNO CARLA DIETER EVA FRANZ GERDA HEINZ INGE JUPP',
    towns: 'NEUBERG|OBERTAL|ST LINDEN|WIESFURT|KALTBACH',
    card: 'KARTENZAHLUNG|KARTE|KZ|POS',
    debit: 'LASTSCHRIFT|SEPA-BASISLASTSCHRIFT|FOLGELASTSCHRIFT',
    transfer: 'UEBERWEISUNG|SEPA-UEBERWEISUNG|ONLINE-UEBERWEISUNG',
    credit: 'GUTSCHRIFT|ZAHLUNGSEINGANG|SEPA-GUTSCHRIFT',
    refund: 'ERSTATTUNG',
  },
  french: {
    starts: 'beau clair mont saint val roche font haut bel ville pré noir lac bois',
    ends: 'mont val rive court lieu fort brun champ font mer',
    trades:
      'fournitures garage alimentation quincaillerie imprimerie assurances boulangerie menuiserie énergie transports nettoyage bistrot outillage télécom librairie pépinière',
    forms: 'SARL|SAS|SA|EURL',
    first: 'ALICE BASILE CÉLINE DENIS ÉLISE FABIEN GISÈLE HENRI INÈS JULES',
    towns: 'CLAIRVAL|MONTRIVE|BEAUCOURT|ST FONT|HAUTLIEU',
    card: 'PAIEMENT CB|CARTE|ACHAT CB',
    debit: 'PRLV SEPA|PRELEVEMENT|PRLV',
    transfer: 'VIR SEPA|VIREMENT EMIS|VIR',
    credit: 'VIR RECU|VIREMENT RECU|REMISE',
    refund: 'REMBOURSEMENT',
  },
  spanish: {
    starts: 'alta bella casa fuente monte pino rio sierra torre valle villa cerro',
    ends: 'blanca verde nueva mar luna sol roca seca honda real',
    trades:
      'suministros taller alimentación ferretería imprenta seguros panadería maderas energía transportes limpieza cafetería herramientas telefonía librería vivero',
    forms: 'SL|SA|SLU|SCOOP',
    first: 'ALBA BRUNO CARMEN DIEGO ELENA FÉLIX GLORIA HUGO INÉS JAIME',
    towns: 'FUENTEVERDE|VILLAROCA|PINO REAL|ALTAMAR|CERRO LUNA',
    card: 'COMPRA TARJ|PAGO CON TARJETA|COMPRA',
    debit: 'RECIBO|ADEUDO|RECIBO SEPA',
    transfer: 'TRANSFERENCIA|TRANSF|ORDEN PAGO',
    credit: 'ABONO|TRANSF RECIBIDA|INGRESO',
    refund: 'DEVOLUCION',
  },
  dutch: {
    starts: 'berg dijk groen haven kerk linden meer noord oost veld water wester zand',
    ends: 'dam hoek huizen kamp laan poort straat veen wijk zicht',
    trades:
      'kantoor garage levensmiddelen ijzerwaren drukkerij verzekering bakkerij houthandel energie koerier schoonmaak eetcafé gereedschap telecom boekhandel kwekerij',
    forms: 'BV|VOF|NV',
    first: 'ANS BART CORRIE DIRK ELS FRITS GREET HENK IRMA JAAP',
    towns: 'GROENHOEK|NOORDVEEN|LINDENDAM|OOSTKAMP|ZANDPOORT',
    card: 'BETAALAUTOMAAT|PINBETALING|BEA',
    debit: 'INCASSO|SEPA INCASSO|EUROINCASSO',
    transfer: 'OVERBOEKING|SEPA OVERBOEKING|BETALING',
    credit: 'BIJSCHRIJVING|ONTVANGEN|STORTING',
    refund: 'TERUGBETALING',
  },
} as const satisfies Record<string, Tongue>;

/** A made-up name of one word. */
export function madeWord({ pick, chance }: Dice, { starts, ends }: Tongue): string {
  const one = pick(starts.split(' ')) + pick(ends.split(' '));
  return chance(0.15) ? one + pick(ends.split(' ')) : one;
}

/** A word of a list that is parted by bars, or else by spaces. */
export function oneOf(throws: Dice, list: string): string {
  return throws.pick(list.includes('|') ? list.split('|') : list.split(' '));
}
