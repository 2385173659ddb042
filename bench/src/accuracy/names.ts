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
  /** What a payer writes that tells nothing. */
  readonly remarks: string;
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
    remarks: 'AS AGREED|THANKS|FINAL|INVOICE|BALANCE|PART PAYMENT|STATEMENT|ORDER',
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
    remarks: 'WIE VEREINBART|VIELEN DANK|REST|RECHNUNG|ANZAHLUNG|LAUT ANGEBOT|BESTELLUNG',
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
    remarks: 'COMME CONVENU|MERCI|SOLDE|FACTURE|ACOMPTE|SELON DEVIS|COMMANDE',
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
    remarks: 'SEGUN ACUERDO|GRACIAS|RESTO|FACTURA|ANTICIPO|PEDIDO',
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
    remarks: 'ZOALS AFGESPROKEN|BEDANKT|RESTANT|FACTUUR|AANBETALING|BESTELLING',
  },
  italian: {
    starts: 'bel castel fior mont pietra ponte prato ros sant torr val ver vigna',
    ends: 'alto ano ara bella dolce etto fiore ino lago olmo ora rossa',
    trades:
      'forniture officina alimentari ferramenta tipografia assicurazioni panificio falegnameria energia trasporti pulizie trattoria utensili telefonia libreria vivai',
    forms: 'SRL|SPA|SNC|SAS',
    first: 'ADA BRUNO CARLA DARIO ELISA FABIO GINA IVO LUCIA MARIO',
    towns: 'CASTELFIORE|MONTEDOLCE|PONTE OLMO|VALROSSA|SANTALTO',
    card: 'PAGAMENTO POS|POS CARTA|ACQUISTO',
    debit: 'ADDEBITO SDD|ADD DIRETTO|SDD',
    transfer: 'BONIFICO|BON A FAVORE|DISP BONIFICO',
    credit: 'ACCREDITO|BON DA|INCASSO',
    refund: 'RIMBORSO',
    remarks: 'COME DA ACCORDI|GRAZIE|SALDO|FATTURA|ACCONTO|ORDINE',
  },
  portuguese: {
    starts: 'alto bela costa fonte mar oliv pedra pinh quint riba serra vale',
    ends: 'al eira inho mar nova oso querido seca verde zinha',
    trades:
      'fornecimentos oficina mercearia ferragens grafica seguros padaria carpintaria energia transportes limpezas pastelaria ferramentas telecom livraria viveiros',
    forms: 'LDA|SA|UNIP',
    first: 'ALVARO BEATRIZ CAROLINA DUARTE EVA FILIPE GLORIA HELENA IVO JOANA',
    towns: 'FONTENOVA|VALE SECO|PEDRALVA|RIBAMAR|SERRINHA',
    card: 'COMPRA CARTAO|COMPRA|PAG TPA',
    debit: 'DEBITO DIRETO|DD|COBRANCA',
    transfer: 'TRF P|TRANSFERENCIA|TRF IMEDIATA',
    credit: 'TRF DE|CREDITO|DEPOSITO',
    refund: 'DEVOLUCAO',
    remarks: 'CONFORME COMBINADO|OBRIGADO|RESTANTE|FATURA|SINAL|ENCOMENDA',
  },
  swedish: {
    starts: 'ahl berg björk dal eke gran hav kvarn lind norr sjö skog sten ström',
    ends: 'backa berga borg by gård hult lunda näs sta torp vik å',
    trades:
      'kontor bilverkstad livsmedel järnhandel tryckeri försäkring bageri trävaror energi frakt städ lunchkök verktyg telefoni bokhandel plantskola',
    forms: 'AB|HB|KB',
    first: 'ASTRID BO CAJSA DAG EBBA FOLKE GUN HARRY INGA JARL',
    towns: 'BJÖRKVIK|NORRBERGA|STENSTA|LINDBORG|SJÖTORP',
    card: 'KORTKÖP|KORT|RESERVERAT KÖP',
    debit: 'AUTOGIRO|AG|BG AUTO',
    transfer: 'BETALNING|GIROBET|ÖVERFÖRING',
    credit: 'INSÄTTNING|INBET|GIROINBET',
    refund: 'ÅTERBET',
    remarks: 'ENL ÖVERENSKOMMELSE|TACK|SLUTBET|FAKTURA|HANDPENNING|ORDER',
  },
  polish: {
    starts: 'biał brzo dąb dobr jaw kam lip nowo olsz sosn stary wierz zielon',
    ends: 'anka ice in nica no owa owiec sko wka wola',
    trades:
      'biurowe warsztat spożywczy żelazny drukarnia ubezpieczenia piekarnia stolarnia energia kurier sprzątanie bistro narzędzia telekom księgarnia szkółka',
    forms: 'SP Z OO|SA|SJ',
    first: 'ADAM BEATA CEZARY DANUTA EWA FILIP GRAŻYNA HENRYK IGA JAN',
    towns: 'LIPNICA|DĄBWOLA|NOWOSKO|OLSZANKA|JAWNO',
    card: 'PŁATNOŚĆ KARTĄ|KARTA|ZAKUP KARTĄ',
    debit: 'POLECENIE ZAPŁATY|PZ|OBCIĄŻENIE',
    transfer: 'PRZELEW WYCH|PRZELEW|PRZELEW EXPRESS',
    credit: 'PRZELEW PRZYCH|UZNANIE|WPŁATA',
    refund: 'ZWROT',
    remarks: 'WG UMOWY|DZIĘKUJĘ|RESZTA|FAKTURA|ZALICZKA|ZAMÓWIENIE',
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
