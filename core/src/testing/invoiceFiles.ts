import { zlibSync } from 'fflate';

/** A bill of clay as UBL 2.1, by hand: two rates and an allowance. */
export const ublBill = `<?xml version="1.0" encoding="UTF-8"?>
<Invoice xmlns="urn:oasis:names:specification:ubl:schema:xsd:Invoice-2"
  xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2"
  xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
  <cbc:CustomizationID>urn:cen.eu:en16931:2017</cbc:CustomizationID>
  <cbc:ID>2093</cbc:ID><cbc:IssueDate>2026-03-02</cbc:IssueDate><cbc:DueDate>2026-04-01</cbc:DueDate>
  <cbc:InvoiceTypeCode>380</cbc:InvoiceTypeCode><cbc:Note>Thank you</cbc:Note>
  <cbc:DocumentCurrencyCode>EUR</cbc:DocumentCurrencyCode>
  <cac:AccountingSupplierParty><cac:Party><cac:PartyName><cbc:Name>Penhallow Clay</cbc:Name></cac:PartyName>
    <cac:PostalAddress><cbc:StreetName>Pit Road 1</cbc:StreetName><cbc:CityName>Garran</cbc:CityName>
      <cbc:PostalZone>4711</cbc:PostalZone><cac:Country><cbc:IdentificationCode>XX</cbc:IdentificationCode></cac:Country></cac:PostalAddress>
    <cac:PartyTaxScheme><cbc:CompanyID>XX123</cbc:CompanyID><cac:TaxScheme><cbc:ID>VAT</cbc:ID></cac:TaxScheme></cac:PartyTaxScheme>
  </cac:Party></cac:AccountingSupplierParty>
  <cac:AccountingCustomerParty><cac:Party><cac:PartyLegalEntity><cbc:RegistrationName>Larkmoor Kiln Works</cbc:RegistrationName></cac:PartyLegalEntity></cac:Party></cac:AccountingCustomerParty>
  <cac:PaymentMeans><cbc:PaymentMeansCode>30</cbc:PaymentMeansCode><cbc:PaymentID>2093 LARKMOOR</cbc:PaymentID>
    <cac:PayeeFinancialAccount><cbc:ID>XX00PENH</cbc:ID></cac:PayeeFinancialAccount></cac:PaymentMeans>
  <cac:AllowanceCharge><cbc:ChargeIndicator>false</cbc:ChargeIndicator><cbc:AllowanceChargeReason>Trade discount</cbc:AllowanceChargeReason>
    <cbc:Amount currencyID="EUR">10.00</cbc:Amount><cac:TaxCategory><cbc:ID>S</cbc:ID><cbc:Percent>20</cbc:Percent></cac:TaxCategory></cac:AllowanceCharge>
  <cac:TaxTotal><cbc:TaxAmount currencyID="EUR">49.10</cbc:TaxAmount>
    <cac:TaxSubtotal><cbc:TaxableAmount currencyID="EUR">240.50</cbc:TaxableAmount><cbc:TaxAmount currencyID="EUR">48.10</cbc:TaxAmount>
      <cac:TaxCategory><cbc:ID>S</cbc:ID><cbc:Percent>20</cbc:Percent></cac:TaxCategory></cac:TaxSubtotal>
    <cac:TaxSubtotal><cbc:TaxableAmount currencyID="EUR">20.00</cbc:TaxableAmount><cbc:TaxAmount currencyID="EUR">1.00</cbc:TaxAmount>
      <cac:TaxCategory><cbc:ID>S</cbc:ID><cbc:Percent>5</cbc:Percent></cac:TaxCategory></cac:TaxSubtotal></cac:TaxTotal>
  <cac:LegalMonetaryTotal><cbc:LineExtensionAmount currencyID="EUR">270.50</cbc:LineExtensionAmount>
    <cbc:TaxExclusiveAmount currencyID="EUR">260.50</cbc:TaxExclusiveAmount><cbc:TaxInclusiveAmount currencyID="EUR">309.60</cbc:TaxInclusiveAmount>
    <cbc:PayableAmount currencyID="EUR">309.60</cbc:PayableAmount></cac:LegalMonetaryTotal>
  <cac:InvoiceLine><cbc:ID>1</cbc:ID><cbc:InvoicedQuantity unitCode="C62">12</cbc:InvoicedQuantity><cbc:LineExtensionAmount currencyID="EUR">250.50</cbc:LineExtensionAmount>
    <cac:Item><cbc:Name>Stoneware, 10 kg</cbc:Name><cac:ClassifiedTaxCategory><cbc:ID>S</cbc:ID><cbc:Percent>20</cbc:Percent></cac:ClassifiedTaxCategory></cac:Item></cac:InvoiceLine>
  <cac:InvoiceLine><cbc:ID>2</cbc:ID><cbc:InvoicedQuantity unitCode="C62">1</cbc:InvoicedQuantity><cbc:LineExtensionAmount currencyID="EUR">20.00</cbc:LineExtensionAmount>
    <cac:Item><cbc:Name>Book of glazes</cbc:Name><cac:ClassifiedTaxCategory><cbc:ID>S</cbc:ID><cbc:Percent>5</cbc:Percent></cac:ClassifiedTaxCategory></cac:Item></cac:InvoiceLine>
</Invoice>`;

/** A credit note of freight as Cross Industry Invoice, by hand: under reverse charge. */
export const ciiCreditNote = `<?xml version="1.0" encoding="UTF-8"?>
<rsm:CrossIndustryInvoice xmlns:rsm="urn:un:unece:uncefact:data:standard:CrossIndustryInvoice:100"
  xmlns:ram="urn:un:unece:uncefact:data:standard:ReusableAggregateBusinessInformationEntity:100"
  xmlns:udt="urn:un:unece:uncefact:data:standard:UnqualifiedDataType:100">
  <rsm:ExchangedDocument><ram:ID>C-7</ram:ID><ram:TypeCode>381</ram:TypeCode>
    <ram:IssueDateTime><udt:DateTimeString format="102">20260315</udt:DateTimeString></ram:IssueDateTime></rsm:ExchangedDocument>
  <rsm:SupplyChainTradeTransaction>
    <ram:IncludedSupplyChainTradeLineItem><ram:SpecifiedTradeProduct><ram:Name>Pallet not delivered</ram:Name></ram:SpecifiedTradeProduct>
      <ram:SpecifiedLineTradeDelivery><ram:BilledQuantity unitCode="C62">1</ram:BilledQuantity></ram:SpecifiedLineTradeDelivery>
      <ram:SpecifiedLineTradeSettlement><ram:ApplicableTradeTax><ram:TypeCode>VAT</ram:TypeCode><ram:CategoryCode>AE</ram:CategoryCode><ram:RateApplicablePercent>0</ram:RateApplicablePercent></ram:ApplicableTradeTax>
        <ram:SpecifiedTradeSettlementLineMonetarySummation><ram:LineTotalAmount>80.00</ram:LineTotalAmount></ram:SpecifiedTradeSettlementLineMonetarySummation></ram:SpecifiedLineTradeSettlement></ram:IncludedSupplyChainTradeLineItem>
    <ram:ApplicableHeaderTradeAgreement><ram:SellerTradeParty><ram:Name>Tidemark Freight</ram:Name>
      <ram:PostalTradeAddress><ram:PostcodeCode>900</ram:PostcodeCode><ram:LineOne>Quay 3</ram:LineOne><ram:CityName>Aldersea</ram:CityName><ram:CountryID>YY</ram:CountryID></ram:PostalTradeAddress>
      <ram:SpecifiedTaxRegistration><ram:ID schemeID="FC">77</ram:ID></ram:SpecifiedTaxRegistration>
      <ram:SpecifiedTaxRegistration><ram:ID schemeID="VA">YY77</ram:ID></ram:SpecifiedTaxRegistration></ram:SellerTradeParty>
      <ram:BuyerTradeParty><ram:Name>Larkmoor Kiln Works</ram:Name></ram:BuyerTradeParty></ram:ApplicableHeaderTradeAgreement>
    <ram:ApplicableHeaderTradeSettlement><ram:PaymentReference>C-7</ram:PaymentReference><ram:InvoiceCurrencyCode>EUR</ram:InvoiceCurrencyCode>
      <ram:ApplicableTradeTax><ram:CalculatedAmount>0.00</ram:CalculatedAmount><ram:TypeCode>VAT</ram:TypeCode><ram:BasisAmount>80.00</ram:BasisAmount><ram:CategoryCode>AE</ram:CategoryCode><ram:RateApplicablePercent>0</ram:RateApplicablePercent></ram:ApplicableTradeTax>
      <ram:SpecifiedTradePaymentTerms><ram:DueDateDateTime><udt:DateTimeString format="102">20260414</udt:DateTimeString></ram:DueDateDateTime></ram:SpecifiedTradePaymentTerms>
      <ram:SpecifiedTradeSettlementHeaderMonetarySummation><ram:LineTotalAmount>80.00</ram:LineTotalAmount><ram:TaxBasisTotalAmount>80.00</ram:TaxBasisTotalAmount>
        <ram:TaxTotalAmount currencyID="EUR">0.00</ram:TaxTotalAmount><ram:GrandTotalAmount>80.00</ram:GrandTotalAmount><ram:DuePayableAmount>80.00</ram:DuePayableAmount></ram:SpecifiedTradeSettlementHeaderMonetarySummation>
    </ram:ApplicableHeaderTradeSettlement>
  </rsm:SupplyChainTradeTransaction>
</rsm:CrossIndustryInvoice>`;

/** The bytes of a PDF, as far as embedding goes, with a file in it. */
export function pdfWith(file: string, isDeflated = true): Uint8Array {
  const bytes = new TextEncoder().encode(file);
  const packed = isDeflated ? zlibSync(bytes) : bytes;
  const filter = isDeflated ? ' /Filter /FlateDecode' : '';
  const head = new TextEncoder().encode(
    `%PDF-1.7\n1 0 obj\n<< /Type /Catalog >>\nendobj\n2 0 obj\n<< /Type /EmbeddedFile /Subtype /text#2Fxml${filter} /Length ${packed.length} >>\nstream\n`,
  );
  const foot = new TextEncoder().encode('\nendstream\nendobj\n%%EOF\n');
  const whole = new Uint8Array(head.length + packed.length + foot.length);
  whole.set(head);
  whole.set(packed, head.length);
  whole.set(foot, head.length + packed.length);
  return whole;
}
