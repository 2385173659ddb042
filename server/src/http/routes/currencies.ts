import { currencyEndpoints } from '@zubrell/contract/endpoints/currencies';
import { exchangeRates, importRates, removeRate, setRate } from '../../modules/currencies/rates.ts';
import { valuationOf, valueCurrencies } from '../../modules/currencies/valueCurrencies.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Exchange rates, and the valuation of what is open in other currencies. */
export function currencyRoutes(api: Api, services: Services): void {
  serve(api, currencyEndpoints.exchangeRates, (request) => query(services, request, exchangeRates));

  serve(api, currencyEndpoints.setRate, (request) =>
    runCommand(services, request, (command) => setRate(command, request.body)),
  );

  serve(api, currencyEndpoints.removeRate, (request) =>
    runCommand(services, request, (command) => removeRate(command, request.params.rateId)),
  );

  serve(api, currencyEndpoints.importRates, (request) =>
    runCommand(services, request, (command) => importRates(command, request.body.text)),
  );

  serve(api, currencyEndpoints.valuation, (request) =>
    query(services, request, (tx, booksId) => valuationOf(tx, booksId, request.query.date)),
  );

  serve(api, currencyEndpoints.valueCurrencies, (request) =>
    runCommand(services, request, (command) => valueCurrencies(command, request.body)),
  );
}
