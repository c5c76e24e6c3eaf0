import { dayMoved, registered } from './employers/events';
import { joinGroup } from './groups/groups';
import { letDueChangesCount } from './people/dated-changes';
import { postPay } from './journal/post-pay';
import { reckonFor, reckonYear } from './journal/reckonings';
import { posted } from './ledger/events';
import { personJoins } from './people/events';
import { lookAgain } from './tie-outs/tie-outs';

// Who hears what is told further down. Loaded once by everything that works with the services.
dayMoved.hear(({ database, employerId }) => letDueChangesCount(database, employerId));
posted.hear(({ scope, lines, values, transaction }) => postPay(scope, lines, values, transaction));
// After the pay itself is in the journal: an employer's own reckonings follow from it.
posted.hear(({ scope, lines, values, transaction }) => reckonFor(scope, lines, values, transaction));
registered.hear(({ scope, transaction }) => reckonYear(scope, scope.employer.today, transaction));
posted.hear(({ scope, transaction }) => lookAgain(scope, transaction));
personJoins.hear(({ scope, groupId, person, transaction }) => joinGroup(scope, groupId, person, transaction));
