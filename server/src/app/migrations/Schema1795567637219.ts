import type { MigrationInterface, QueryRunner } from 'typeorm'

export class Schema1795567637219 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE "audit" ("seq" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "at" text NOT NULL, "personId" text, "action" text NOT NULL, "subject" text NOT NULL, "subjectId" text NOT NULL, "before" text, "after" text, "why" text, "previousHash" text NOT NULL, "hash" text NOT NULL)',
    )
    await runner.query('CREATE INDEX "audit_subject" ON "audit" ("subjectId", "seq") ')
    await runner.query(
      'CREATE TABLE "request_key" ("key" text NOT NULL, "personId" text NOT NULL, "requestHash" text NOT NULL, "reply" text NOT NULL, "at" text NOT NULL, PRIMARY KEY ("key", "personId"))',
    )
    await runner.query('CREATE INDEX "request_key_at" ON "request_key" ("at") ')
    await runner.query('CREATE TABLE "counter" ("name" text PRIMARY KEY NOT NULL, "value" integer NOT NULL)')
    await runner.query(
      'CREATE TABLE "session" ("tokenHash" text PRIMARY KEY NOT NULL, "personId" text NOT NULL, "createdAt" text NOT NULL, "expiresAt" text NOT NULL)',
    )
    await runner.query(
      'CREATE TABLE "person" ("id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "initials" text NOT NULL, "signInName" text NOT NULL, "signInKey" text NOT NULL, "passwordHash" text NOT NULL, "roles" text NOT NULL, "isActive" boolean NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_58fcf519f761bf0108561620911" UNIQUE ("signInKey"))',
    )
    await runner.query(
      'CREATE TABLE "family" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_dda1bb198ec0acfea3c86dee11f" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "partner" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "kind" text NOT NULL, "isActive" boolean NOT NULL, CONSTRAINT "UQ_a032a2037d6fa09db7538e54388" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "place" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "purpose" text NOT NULL, "countsForPlanning" boolean NOT NULL, CONSTRAINT "UQ_65b07d0905a0f43e4befd9b20b4" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "operation" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "kind" text NOT NULL, CONSTRAINT "UQ_1e42c4659f3d19d61eb33a53927" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "part" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "revision" text NOT NULL, "unit" text NOT NULL, "tracking" text NOT NULL, "familyId" text, "putAwayPlaceId" text, CONSTRAINT "UQ_878036da1b591e47d78c0277d7d" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "routing_step" ("partId" text NOT NULL, "position" integer NOT NULL, "operationId" text NOT NULL, PRIMARY KEY ("partId", "position"))',
    )
    await runner.query(
      'CREATE TABLE "characteristic" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_d6ff11fabd7c271465c094b2a89" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "characteristic_revision" ("id" text PRIMARY KEY NOT NULL, "revision" integer NOT NULL, "state" text NOT NULL, "releasedAt" text, "releasedById" text, "characteristicId" text NOT NULL, "name" text NOT NULL, "kind" text NOT NULL, "class" text NOT NULL, "method" text NOT NULL, "instruction" text NOT NULL, "nominal" text, "lower" text, "upper" text, "unit" text, "resolution" text, "acceptableState" text, CONSTRAINT "UQ_78a03bf00b2ba7930c9550344ab" UNIQUE ("characteristicId", "revision"))',
    )
    await runner.query(
      'CREATE TABLE "plan" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_e405cbb23fb08931a48ad8c2bdb" UNIQUE ("code"))',
    )
    await runner.query(
      'CREATE TABLE "plan_revision" ("id" text PRIMARY KEY NOT NULL, "revision" integer NOT NULL, "state" text NOT NULL, "releasedAt" text, "releasedById" text, "planId" text NOT NULL, CONSTRAINT "UQ_bbeb8916bef39088d6a10313ff8" UNIQUE ("planId", "revision"))',
    )
    await runner.query(
      'CREATE TABLE "plan_line" ("planRevisionId" text NOT NULL, "position" integer NOT NULL, "characteristicId" text NOT NULL, "sampling" text NOT NULL, "isRequired" boolean NOT NULL, "isDecisive" boolean NOT NULL, PRIMARY KEY ("planRevisionId", "position"))',
    )
    await runner.query('CREATE INDEX "plan_line_characteristic" ON "plan_line" ("characteristicId") ')
    await runner.query(
      'CREATE TABLE "control_point" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "operationId" text NOT NULL, "planId" text NOT NULL, "partId" text, "familyId" text, "supplierId" text, "holdPlaceId" text, "isGate" boolean NOT NULL, "state" text NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_2a6f8e76bb4c8c584d65e0b8719" UNIQUE ("code"), CONSTRAINT "control_point_reach" CHECK (("partId" IS NULL) <> ("familyId" IS NULL)))',
    )
    await runner.query('CREATE INDEX "control_point_part" ON "control_point" ("partId") ')
    await runner.query('CREATE INDEX "control_point_family" ON "control_point" ("familyId") ')
    await runner.query(
      'CREATE TABLE "delivery" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "supplierId" text NOT NULL, "orderNumber" text NOT NULL, "receivedAt" text NOT NULL, "receivedById" text NOT NULL, CONSTRAINT "UQ_e00121be3f7b06b7b32fa5c8223" UNIQUE ("code"))',
    )
    await runner.query('CREATE INDEX "delivery_received" ON "delivery" ("receivedAt", "id") ')
    await runner.query(
      'CREATE TABLE "lot" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "partId" text NOT NULL, "deliveryId" text NOT NULL, "supplierId" text NOT NULL, "supplierLot" text NOT NULL, "quantity" integer NOT NULL, "receivedAt" text NOT NULL, CONSTRAINT "UQ_faa4ae0540ad6b7e3221877b446" UNIQUE ("code"))',
    )
    await runner.query('CREATE INDEX "lot_delivery" ON "lot" ("deliveryId") ')
    await runner.query('CREATE INDEX "lot_received" ON "lot" ("receivedAt", "id") ')
    await runner.query(
      'CREATE TABLE "container" ("id" text PRIMARY KEY NOT NULL, "lotId" text NOT NULL, "label" text NOT NULL, "quantity" integer NOT NULL, CONSTRAINT "UQ_0ec7ec7099affb0ef3bad1f9ff6" UNIQUE ("lotId", "label"))',
    )
    await runner.query(
      'CREATE TABLE "movement" ("seq" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "lotId" text NOT NULL, "containerId" text, "quantity" integer NOT NULL, "fromPlaceId" text, "fromStanding" text, "toPlaceId" text NOT NULL, "toStanding" text NOT NULL, "why" text NOT NULL, "causeId" text, "at" text NOT NULL, "personId" text NOT NULL, CONSTRAINT "movement_quantity" CHECK ("quantity" > 0 AND typeof("quantity") = \'integer\'), CONSTRAINT "movement_from" CHECK (("fromPlaceId" IS NULL) = ("fromStanding" IS NULL)))',
    )
    await runner.query('CREATE INDEX "movement_lot" ON "movement" ("lotId", "seq") ')
    await runner.query(
      'CREATE TABLE "inspection" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "controlPointId" text NOT NULL, "planRevisionId" text NOT NULL, "operationId" text NOT NULL, "lotId" text NOT NULL, "state" text NOT NULL, "isGate" boolean NOT NULL, "holdPlaceId" text, "lotSize" integer NOT NULL, "asked" integer NOT NULL, "answered" integer NOT NULL, "openedAt" text NOT NULL, "startedAt" text, "startedById" text, "finishedAt" text, "finishedById" text, "verdict" text, "finding" text, "version" integer NOT NULL, CONSTRAINT "UQ_fe658292726a53c40c8591c4ce3" UNIQUE ("code"))',
    )
    await runner.query('CREATE INDEX "inspection_lot" ON "inspection" ("lotId") ')
    await runner.query('CREATE INDEX "inspection_state" ON "inspection" ("state", "openedAt", "id") ')
    await runner.query('CREATE INDEX "inspection_opened" ON "inspection" ("openedAt", "id") ')
    await runner.query('CREATE INDEX "inspection_finished" ON "inspection" ("finishedAt") ')
    await runner.query(
      'CREATE TABLE "inspection_line" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "position" integer NOT NULL, "characteristicRevisionId" text NOT NULL, "sampleSize" integer NOT NULL, "accept" integer NOT NULL, "samplingWords" text NOT NULL, "samplingReasoning" text NOT NULL, "isRequired" boolean NOT NULL, "isDecisive" boolean NOT NULL, CONSTRAINT "UQ_c813941c042b47c67495e31a18c" UNIQUE ("inspectionId", "position"))',
    )
    await runner.query(
      'CREATE TABLE "reading" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "lineId" text NOT NULL, "piece" integer NOT NULL, "correction" integer NOT NULL, "value" text, "mark" text NOT NULL, "isConfirmedOutside" boolean NOT NULL, "typedAt" text NOT NULL, "at" text NOT NULL, "personId" text NOT NULL, CONSTRAINT "reading_cell" UNIQUE ("inspectionId", "lineId", "piece", "correction"))',
    )
    await runner.query(
      'CREATE TABLE "decision" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "signedAt" text NOT NULL, "signedById" text NOT NULL, "meaning" text NOT NULL, CONSTRAINT "UQ_888f01a507a886a47ce700d0bba" UNIQUE ("inspectionId"))',
    )
    await runner.query(
      'CREATE TABLE "decision_part" ("decisionId" text NOT NULL, "position" integer NOT NULL, "containerId" text, "quantity" integer NOT NULL, "disposition" text NOT NULL, "reason" text NOT NULL, PRIMARY KEY ("decisionId", "position"))',
    )
    await runner.query(
      'CREATE TABLE "temporary_session" ("tokenHash" text PRIMARY KEY NOT NULL, "personId" text NOT NULL, "createdAt" text NOT NULL, "expiresAt" text NOT NULL, CONSTRAINT "FK_b8e1fcf37e349295272a5ebbd50" FOREIGN KEY ("personId") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_session"("tokenHash", "personId", "createdAt", "expiresAt") SELECT "tokenHash", "personId", "createdAt", "expiresAt" FROM "session"',
    )
    await runner.query('DROP TABLE "session"')
    await runner.query('ALTER TABLE "temporary_session" RENAME TO "session"')
    await runner.query(
      'CREATE TABLE "temporary_part" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "revision" text NOT NULL, "unit" text NOT NULL, "tracking" text NOT NULL, "familyId" text, "putAwayPlaceId" text, CONSTRAINT "UQ_878036da1b591e47d78c0277d7d" UNIQUE ("code"), CONSTRAINT "FK_8a9d457cda902dcfbaec2898243" FOREIGN KEY ("familyId") REFERENCES "family" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_fced61a0a67165dc833998a0376" FOREIGN KEY ("putAwayPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_part"("id", "code", "name", "version", "revision", "unit", "tracking", "familyId", "putAwayPlaceId") SELECT "id", "code", "name", "version", "revision", "unit", "tracking", "familyId", "putAwayPlaceId" FROM "part"',
    )
    await runner.query('DROP TABLE "part"')
    await runner.query('ALTER TABLE "temporary_part" RENAME TO "part"')
    await runner.query(
      'CREATE TABLE "temporary_routing_step" ("partId" text NOT NULL, "position" integer NOT NULL, "operationId" text NOT NULL, CONSTRAINT "FK_d741a6ea0f6299e2f02b6c346e5" FOREIGN KEY ("partId") REFERENCES "part" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_b1ed1f4e1e3dddb7ea8a4ef31fa" FOREIGN KEY ("operationId") REFERENCES "operation" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, PRIMARY KEY ("partId", "position"))',
    )
    await runner.query(
      'INSERT INTO "temporary_routing_step"("partId", "position", "operationId") SELECT "partId", "position", "operationId" FROM "routing_step"',
    )
    await runner.query('DROP TABLE "routing_step"')
    await runner.query('ALTER TABLE "temporary_routing_step" RENAME TO "routing_step"')
    await runner.query(
      'CREATE TABLE "temporary_characteristic_revision" ("id" text PRIMARY KEY NOT NULL, "revision" integer NOT NULL, "state" text NOT NULL, "releasedAt" text, "releasedById" text, "characteristicId" text NOT NULL, "name" text NOT NULL, "kind" text NOT NULL, "class" text NOT NULL, "method" text NOT NULL, "instruction" text NOT NULL, "nominal" text, "lower" text, "upper" text, "unit" text, "resolution" text, "acceptableState" text, CONSTRAINT "UQ_78a03bf00b2ba7930c9550344ab" UNIQUE ("characteristicId", "revision"), CONSTRAINT "FK_e9c8c3be578a09d9889c5d0d30c" FOREIGN KEY ("releasedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_41f0bbd699411248fdba3f7524e" FOREIGN KEY ("characteristicId") REFERENCES "characteristic" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_characteristic_revision"("id", "revision", "state", "releasedAt", "releasedById", "characteristicId", "name", "kind", "class", "method", "instruction", "nominal", "lower", "upper", "unit", "resolution", "acceptableState") SELECT "id", "revision", "state", "releasedAt", "releasedById", "characteristicId", "name", "kind", "class", "method", "instruction", "nominal", "lower", "upper", "unit", "resolution", "acceptableState" FROM "characteristic_revision"',
    )
    await runner.query('DROP TABLE "characteristic_revision"')
    await runner.query('ALTER TABLE "temporary_characteristic_revision" RENAME TO "characteristic_revision"')
    await runner.query(
      'CREATE TABLE "temporary_plan_revision" ("id" text PRIMARY KEY NOT NULL, "revision" integer NOT NULL, "state" text NOT NULL, "releasedAt" text, "releasedById" text, "planId" text NOT NULL, CONSTRAINT "UQ_bbeb8916bef39088d6a10313ff8" UNIQUE ("planId", "revision"), CONSTRAINT "FK_54d3e9f6fad99d1025cf4ad1092" FOREIGN KEY ("releasedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_5522a37e22933de875ff89f1188" FOREIGN KEY ("planId") REFERENCES "plan" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_plan_revision"("id", "revision", "state", "releasedAt", "releasedById", "planId") SELECT "id", "revision", "state", "releasedAt", "releasedById", "planId" FROM "plan_revision"',
    )
    await runner.query('DROP TABLE "plan_revision"')
    await runner.query('ALTER TABLE "temporary_plan_revision" RENAME TO "plan_revision"')
    await runner.query('DROP INDEX "plan_line_characteristic"')
    await runner.query(
      'CREATE TABLE "temporary_plan_line" ("planRevisionId" text NOT NULL, "position" integer NOT NULL, "characteristicId" text NOT NULL, "sampling" text NOT NULL, "isRequired" boolean NOT NULL, "isDecisive" boolean NOT NULL, CONSTRAINT "FK_ad1a1beae45c42aa2d65b022af1" FOREIGN KEY ("planRevisionId") REFERENCES "plan_revision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_fbcb418a058902ed6ee8228eea0" FOREIGN KEY ("characteristicId") REFERENCES "characteristic" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, PRIMARY KEY ("planRevisionId", "position"))',
    )
    await runner.query(
      'INSERT INTO "temporary_plan_line"("planRevisionId", "position", "characteristicId", "sampling", "isRequired", "isDecisive") SELECT "planRevisionId", "position", "characteristicId", "sampling", "isRequired", "isDecisive" FROM "plan_line"',
    )
    await runner.query('DROP TABLE "plan_line"')
    await runner.query('ALTER TABLE "temporary_plan_line" RENAME TO "plan_line"')
    await runner.query('CREATE INDEX "plan_line_characteristic" ON "plan_line" ("characteristicId") ')
    await runner.query('DROP INDEX "control_point_part"')
    await runner.query('DROP INDEX "control_point_family"')
    await runner.query(
      'CREATE TABLE "temporary_control_point" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "operationId" text NOT NULL, "planId" text NOT NULL, "partId" text, "familyId" text, "supplierId" text, "holdPlaceId" text, "isGate" boolean NOT NULL, "state" text NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_2a6f8e76bb4c8c584d65e0b8719" UNIQUE ("code"), CONSTRAINT "control_point_reach" CHECK (("partId" IS NULL) <> ("familyId" IS NULL)), CONSTRAINT "FK_5f18db46635f0f98bfe17275f1b" FOREIGN KEY ("operationId") REFERENCES "operation" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_6ad6e367ffc90114a50c4c55326" FOREIGN KEY ("planId") REFERENCES "plan" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_bfe20eb90bf3f3029855cf645b2" FOREIGN KEY ("partId") REFERENCES "part" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_c0fe17b443838d2e11ad79e53dd" FOREIGN KEY ("familyId") REFERENCES "family" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_c35d57590a447f69c0a22d7b3d2" FOREIGN KEY ("supplierId") REFERENCES "partner" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_85f91e8585f464f65a5dedb1689" FOREIGN KEY ("holdPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_control_point"("id", "code", "operationId", "planId", "partId", "familyId", "supplierId", "holdPlaceId", "isGate", "state", "version") SELECT "id", "code", "operationId", "planId", "partId", "familyId", "supplierId", "holdPlaceId", "isGate", "state", "version" FROM "control_point"',
    )
    await runner.query('DROP TABLE "control_point"')
    await runner.query('ALTER TABLE "temporary_control_point" RENAME TO "control_point"')
    await runner.query('CREATE INDEX "control_point_part" ON "control_point" ("partId") ')
    await runner.query('CREATE INDEX "control_point_family" ON "control_point" ("familyId") ')
    await runner.query('DROP INDEX "delivery_received"')
    await runner.query(
      'CREATE TABLE "temporary_delivery" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "supplierId" text NOT NULL, "orderNumber" text NOT NULL, "receivedAt" text NOT NULL, "receivedById" text NOT NULL, CONSTRAINT "UQ_e00121be3f7b06b7b32fa5c8223" UNIQUE ("code"), CONSTRAINT "FK_5eaafc706ef251d36371f402dfc" FOREIGN KEY ("supplierId") REFERENCES "partner" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_1b0537d2b58d020d8c3000cf712" FOREIGN KEY ("receivedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_delivery"("id", "code", "supplierId", "orderNumber", "receivedAt", "receivedById") SELECT "id", "code", "supplierId", "orderNumber", "receivedAt", "receivedById" FROM "delivery"',
    )
    await runner.query('DROP TABLE "delivery"')
    await runner.query('ALTER TABLE "temporary_delivery" RENAME TO "delivery"')
    await runner.query('CREATE INDEX "delivery_received" ON "delivery" ("receivedAt", "id") ')
    await runner.query('DROP INDEX "lot_delivery"')
    await runner.query('DROP INDEX "lot_received"')
    await runner.query(
      'CREATE TABLE "temporary_lot" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "partId" text NOT NULL, "deliveryId" text NOT NULL, "supplierId" text NOT NULL, "supplierLot" text NOT NULL, "quantity" integer NOT NULL, "receivedAt" text NOT NULL, CONSTRAINT "UQ_faa4ae0540ad6b7e3221877b446" UNIQUE ("code"), CONSTRAINT "FK_0de93374982e6482d3ced161a18" FOREIGN KEY ("partId") REFERENCES "part" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_fac7b33bcd2917c3cae9ef7ce60" FOREIGN KEY ("deliveryId") REFERENCES "delivery" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_f51fee096b526cf8495c3bcfe8e" FOREIGN KEY ("supplierId") REFERENCES "partner" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_lot"("id", "code", "partId", "deliveryId", "supplierId", "supplierLot", "quantity", "receivedAt") SELECT "id", "code", "partId", "deliveryId", "supplierId", "supplierLot", "quantity", "receivedAt" FROM "lot"',
    )
    await runner.query('DROP TABLE "lot"')
    await runner.query('ALTER TABLE "temporary_lot" RENAME TO "lot"')
    await runner.query('CREATE INDEX "lot_delivery" ON "lot" ("deliveryId") ')
    await runner.query('CREATE INDEX "lot_received" ON "lot" ("receivedAt", "id") ')
    await runner.query(
      'CREATE TABLE "temporary_container" ("id" text PRIMARY KEY NOT NULL, "lotId" text NOT NULL, "label" text NOT NULL, "quantity" integer NOT NULL, CONSTRAINT "UQ_0ec7ec7099affb0ef3bad1f9ff6" UNIQUE ("lotId", "label"), CONSTRAINT "FK_0b1d41308b35a97a1e3d1319e14" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_container"("id", "lotId", "label", "quantity") SELECT "id", "lotId", "label", "quantity" FROM "container"',
    )
    await runner.query('DROP TABLE "container"')
    await runner.query('ALTER TABLE "temporary_container" RENAME TO "container"')
    await runner.query('DROP INDEX "movement_lot"')
    await runner.query(
      'CREATE TABLE "temporary_movement" ("seq" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "lotId" text NOT NULL, "containerId" text, "quantity" integer NOT NULL, "fromPlaceId" text, "fromStanding" text, "toPlaceId" text NOT NULL, "toStanding" text NOT NULL, "why" text NOT NULL, "causeId" text, "at" text NOT NULL, "personId" text NOT NULL, CONSTRAINT "movement_quantity" CHECK ("quantity" > 0 AND typeof("quantity") = \'integer\'), CONSTRAINT "movement_from" CHECK (("fromPlaceId" IS NULL) = ("fromStanding" IS NULL)), CONSTRAINT "FK_7d2903022b22eb930b1d815c976" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_e13917f2b2b8ba5c5d3eea842e8" FOREIGN KEY ("containerId") REFERENCES "container" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_add6eb9e16ca3d9ef4c055f60fc" FOREIGN KEY ("fromPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_e0847a023aac31a1045cb1adda6" FOREIGN KEY ("toPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_f18b31578610d770d2ef22a716b" FOREIGN KEY ("personId") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_movement"("seq", "lotId", "containerId", "quantity", "fromPlaceId", "fromStanding", "toPlaceId", "toStanding", "why", "causeId", "at", "personId") SELECT "seq", "lotId", "containerId", "quantity", "fromPlaceId", "fromStanding", "toPlaceId", "toStanding", "why", "causeId", "at", "personId" FROM "movement"',
    )
    await runner.query('DROP TABLE "movement"')
    await runner.query('ALTER TABLE "temporary_movement" RENAME TO "movement"')
    await runner.query('CREATE INDEX "movement_lot" ON "movement" ("lotId", "seq") ')
    await runner.query('DROP INDEX "inspection_lot"')
    await runner.query('DROP INDEX "inspection_state"')
    await runner.query('DROP INDEX "inspection_opened"')
    await runner.query('DROP INDEX "inspection_finished"')
    await runner.query(
      'CREATE TABLE "temporary_inspection" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "controlPointId" text NOT NULL, "planRevisionId" text NOT NULL, "operationId" text NOT NULL, "lotId" text NOT NULL, "state" text NOT NULL, "isGate" boolean NOT NULL, "holdPlaceId" text, "lotSize" integer NOT NULL, "asked" integer NOT NULL, "answered" integer NOT NULL, "openedAt" text NOT NULL, "startedAt" text, "startedById" text, "finishedAt" text, "finishedById" text, "verdict" text, "finding" text, "version" integer NOT NULL, CONSTRAINT "UQ_fe658292726a53c40c8591c4ce3" UNIQUE ("code"), CONSTRAINT "FK_6837dafa0184a3e5def6ce9301b" FOREIGN KEY ("controlPointId") REFERENCES "control_point" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_e142433e4982b73450295c48008" FOREIGN KEY ("planRevisionId") REFERENCES "plan_revision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_380bb0ff5ee89affd3fc6929e15" FOREIGN KEY ("operationId") REFERENCES "operation" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_65112c8881d62d2b599af598e21" FOREIGN KEY ("lotId") REFERENCES "lot" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_0a13500929c4539038ff9f3bd24" FOREIGN KEY ("holdPlaceId") REFERENCES "place" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_1f9e89afc026ccdd5039090dc1a" FOREIGN KEY ("startedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_b504a5911a9d9b07a21f53fff90" FOREIGN KEY ("finishedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_inspection"("id", "code", "controlPointId", "planRevisionId", "operationId", "lotId", "state", "isGate", "holdPlaceId", "lotSize", "asked", "answered", "openedAt", "startedAt", "startedById", "finishedAt", "finishedById", "verdict", "finding", "version") SELECT "id", "code", "controlPointId", "planRevisionId", "operationId", "lotId", "state", "isGate", "holdPlaceId", "lotSize", "asked", "answered", "openedAt", "startedAt", "startedById", "finishedAt", "finishedById", "verdict", "finding", "version" FROM "inspection"',
    )
    await runner.query('DROP TABLE "inspection"')
    await runner.query('ALTER TABLE "temporary_inspection" RENAME TO "inspection"')
    await runner.query('CREATE INDEX "inspection_lot" ON "inspection" ("lotId") ')
    await runner.query('CREATE INDEX "inspection_state" ON "inspection" ("state", "openedAt", "id") ')
    await runner.query('CREATE INDEX "inspection_opened" ON "inspection" ("openedAt", "id") ')
    await runner.query('CREATE INDEX "inspection_finished" ON "inspection" ("finishedAt") ')
    await runner.query(
      'CREATE TABLE "temporary_inspection_line" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "position" integer NOT NULL, "characteristicRevisionId" text NOT NULL, "sampleSize" integer NOT NULL, "accept" integer NOT NULL, "samplingWords" text NOT NULL, "samplingReasoning" text NOT NULL, "isRequired" boolean NOT NULL, "isDecisive" boolean NOT NULL, CONSTRAINT "UQ_c813941c042b47c67495e31a18c" UNIQUE ("inspectionId", "position"), CONSTRAINT "FK_4fc06753289266ca452c087f689" FOREIGN KEY ("inspectionId") REFERENCES "inspection" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_4196053ee65ffba70d0d161da59" FOREIGN KEY ("characteristicRevisionId") REFERENCES "characteristic_revision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_inspection_line"("id", "inspectionId", "position", "characteristicRevisionId", "sampleSize", "accept", "samplingWords", "samplingReasoning", "isRequired", "isDecisive") SELECT "id", "inspectionId", "position", "characteristicRevisionId", "sampleSize", "accept", "samplingWords", "samplingReasoning", "isRequired", "isDecisive" FROM "inspection_line"',
    )
    await runner.query('DROP TABLE "inspection_line"')
    await runner.query('ALTER TABLE "temporary_inspection_line" RENAME TO "inspection_line"')
    await runner.query(
      'CREATE TABLE "temporary_reading" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "lineId" text NOT NULL, "piece" integer NOT NULL, "correction" integer NOT NULL, "value" text, "mark" text NOT NULL, "isConfirmedOutside" boolean NOT NULL, "typedAt" text NOT NULL, "at" text NOT NULL, "personId" text NOT NULL, CONSTRAINT "reading_cell" UNIQUE ("inspectionId", "lineId", "piece", "correction"), CONSTRAINT "FK_0647944e7d4a7832265094365ce" FOREIGN KEY ("inspectionId") REFERENCES "inspection" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_ee3cc1f99f2de2d37a736967385" FOREIGN KEY ("lineId") REFERENCES "inspection_line" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_31505b7e139eb3e1f6ad5fe6be4" FOREIGN KEY ("personId") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_reading"("id", "inspectionId", "lineId", "piece", "correction", "value", "mark", "isConfirmedOutside", "typedAt", "at", "personId") SELECT "id", "inspectionId", "lineId", "piece", "correction", "value", "mark", "isConfirmedOutside", "typedAt", "at", "personId" FROM "reading"',
    )
    await runner.query('DROP TABLE "reading"')
    await runner.query('ALTER TABLE "temporary_reading" RENAME TO "reading"')
    await runner.query(
      'CREATE TABLE "temporary_decision" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "signedAt" text NOT NULL, "signedById" text NOT NULL, "meaning" text NOT NULL, CONSTRAINT "UQ_888f01a507a886a47ce700d0bba" UNIQUE ("inspectionId"), CONSTRAINT "FK_888f01a507a886a47ce700d0bba" FOREIGN KEY ("inspectionId") REFERENCES "inspection" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_6aa506af44787f372b8e5103962" FOREIGN KEY ("signedById") REFERENCES "person" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION)',
    )
    await runner.query(
      'INSERT INTO "temporary_decision"("id", "inspectionId", "signedAt", "signedById", "meaning") SELECT "id", "inspectionId", "signedAt", "signedById", "meaning" FROM "decision"',
    )
    await runner.query('DROP TABLE "decision"')
    await runner.query('ALTER TABLE "temporary_decision" RENAME TO "decision"')
    await runner.query(
      'CREATE TABLE "temporary_decision_part" ("decisionId" text NOT NULL, "position" integer NOT NULL, "containerId" text, "quantity" integer NOT NULL, "disposition" text NOT NULL, "reason" text NOT NULL, CONSTRAINT "FK_24097cf3a00a595d14e99f0498b" FOREIGN KEY ("decisionId") REFERENCES "decision" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, CONSTRAINT "FK_b8f4377f09d45df67ee6ffb7203" FOREIGN KEY ("containerId") REFERENCES "container" ("id") ON DELETE NO ACTION ON UPDATE NO ACTION, PRIMARY KEY ("decisionId", "position"))',
    )
    await runner.query(
      'INSERT INTO "temporary_decision_part"("decisionId", "position", "containerId", "quantity", "disposition", "reason") SELECT "decisionId", "position", "containerId", "quantity", "disposition", "reason" FROM "decision_part"',
    )
    await runner.query('DROP TABLE "decision_part"')
    await runner.query('ALTER TABLE "temporary_decision_part" RENAME TO "decision_part"')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "decision_part" RENAME TO "temporary_decision_part"')
    await runner.query(
      'CREATE TABLE "decision_part" ("decisionId" text NOT NULL, "position" integer NOT NULL, "containerId" text, "quantity" integer NOT NULL, "disposition" text NOT NULL, "reason" text NOT NULL, PRIMARY KEY ("decisionId", "position"))',
    )
    await runner.query(
      'INSERT INTO "decision_part"("decisionId", "position", "containerId", "quantity", "disposition", "reason") SELECT "decisionId", "position", "containerId", "quantity", "disposition", "reason" FROM "temporary_decision_part"',
    )
    await runner.query('DROP TABLE "temporary_decision_part"')
    await runner.query('ALTER TABLE "decision" RENAME TO "temporary_decision"')
    await runner.query(
      'CREATE TABLE "decision" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "signedAt" text NOT NULL, "signedById" text NOT NULL, "meaning" text NOT NULL, CONSTRAINT "UQ_888f01a507a886a47ce700d0bba" UNIQUE ("inspectionId"))',
    )
    await runner.query(
      'INSERT INTO "decision"("id", "inspectionId", "signedAt", "signedById", "meaning") SELECT "id", "inspectionId", "signedAt", "signedById", "meaning" FROM "temporary_decision"',
    )
    await runner.query('DROP TABLE "temporary_decision"')
    await runner.query('ALTER TABLE "reading" RENAME TO "temporary_reading"')
    await runner.query(
      'CREATE TABLE "reading" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "lineId" text NOT NULL, "piece" integer NOT NULL, "correction" integer NOT NULL, "value" text, "mark" text NOT NULL, "isConfirmedOutside" boolean NOT NULL, "typedAt" text NOT NULL, "at" text NOT NULL, "personId" text NOT NULL, CONSTRAINT "reading_cell" UNIQUE ("inspectionId", "lineId", "piece", "correction"))',
    )
    await runner.query(
      'INSERT INTO "reading"("id", "inspectionId", "lineId", "piece", "correction", "value", "mark", "isConfirmedOutside", "typedAt", "at", "personId") SELECT "id", "inspectionId", "lineId", "piece", "correction", "value", "mark", "isConfirmedOutside", "typedAt", "at", "personId" FROM "temporary_reading"',
    )
    await runner.query('DROP TABLE "temporary_reading"')
    await runner.query('ALTER TABLE "inspection_line" RENAME TO "temporary_inspection_line"')
    await runner.query(
      'CREATE TABLE "inspection_line" ("id" text PRIMARY KEY NOT NULL, "inspectionId" text NOT NULL, "position" integer NOT NULL, "characteristicRevisionId" text NOT NULL, "sampleSize" integer NOT NULL, "accept" integer NOT NULL, "samplingWords" text NOT NULL, "samplingReasoning" text NOT NULL, "isRequired" boolean NOT NULL, "isDecisive" boolean NOT NULL, CONSTRAINT "UQ_c813941c042b47c67495e31a18c" UNIQUE ("inspectionId", "position"))',
    )
    await runner.query(
      'INSERT INTO "inspection_line"("id", "inspectionId", "position", "characteristicRevisionId", "sampleSize", "accept", "samplingWords", "samplingReasoning", "isRequired", "isDecisive") SELECT "id", "inspectionId", "position", "characteristicRevisionId", "sampleSize", "accept", "samplingWords", "samplingReasoning", "isRequired", "isDecisive" FROM "temporary_inspection_line"',
    )
    await runner.query('DROP TABLE "temporary_inspection_line"')
    await runner.query('DROP INDEX "inspection_finished"')
    await runner.query('DROP INDEX "inspection_opened"')
    await runner.query('DROP INDEX "inspection_state"')
    await runner.query('DROP INDEX "inspection_lot"')
    await runner.query('ALTER TABLE "inspection" RENAME TO "temporary_inspection"')
    await runner.query(
      'CREATE TABLE "inspection" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "controlPointId" text NOT NULL, "planRevisionId" text NOT NULL, "operationId" text NOT NULL, "lotId" text NOT NULL, "state" text NOT NULL, "isGate" boolean NOT NULL, "holdPlaceId" text, "lotSize" integer NOT NULL, "asked" integer NOT NULL, "answered" integer NOT NULL, "openedAt" text NOT NULL, "startedAt" text, "startedById" text, "finishedAt" text, "finishedById" text, "verdict" text, "finding" text, "version" integer NOT NULL, CONSTRAINT "UQ_fe658292726a53c40c8591c4ce3" UNIQUE ("code"))',
    )
    await runner.query(
      'INSERT INTO "inspection"("id", "code", "controlPointId", "planRevisionId", "operationId", "lotId", "state", "isGate", "holdPlaceId", "lotSize", "asked", "answered", "openedAt", "startedAt", "startedById", "finishedAt", "finishedById", "verdict", "finding", "version") SELECT "id", "code", "controlPointId", "planRevisionId", "operationId", "lotId", "state", "isGate", "holdPlaceId", "lotSize", "asked", "answered", "openedAt", "startedAt", "startedById", "finishedAt", "finishedById", "verdict", "finding", "version" FROM "temporary_inspection"',
    )
    await runner.query('DROP TABLE "temporary_inspection"')
    await runner.query('CREATE INDEX "inspection_finished" ON "inspection" ("finishedAt") ')
    await runner.query('CREATE INDEX "inspection_opened" ON "inspection" ("openedAt", "id") ')
    await runner.query('CREATE INDEX "inspection_state" ON "inspection" ("state", "openedAt", "id") ')
    await runner.query('CREATE INDEX "inspection_lot" ON "inspection" ("lotId") ')
    await runner.query('DROP INDEX "movement_lot"')
    await runner.query('ALTER TABLE "movement" RENAME TO "temporary_movement"')
    await runner.query(
      'CREATE TABLE "movement" ("seq" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "lotId" text NOT NULL, "containerId" text, "quantity" integer NOT NULL, "fromPlaceId" text, "fromStanding" text, "toPlaceId" text NOT NULL, "toStanding" text NOT NULL, "why" text NOT NULL, "causeId" text, "at" text NOT NULL, "personId" text NOT NULL, CONSTRAINT "movement_quantity" CHECK ("quantity" > 0 AND typeof("quantity") = \'integer\'), CONSTRAINT "movement_from" CHECK (("fromPlaceId" IS NULL) = ("fromStanding" IS NULL)))',
    )
    await runner.query(
      'INSERT INTO "movement"("seq", "lotId", "containerId", "quantity", "fromPlaceId", "fromStanding", "toPlaceId", "toStanding", "why", "causeId", "at", "personId") SELECT "seq", "lotId", "containerId", "quantity", "fromPlaceId", "fromStanding", "toPlaceId", "toStanding", "why", "causeId", "at", "personId" FROM "temporary_movement"',
    )
    await runner.query('DROP TABLE "temporary_movement"')
    await runner.query('CREATE INDEX "movement_lot" ON "movement" ("lotId", "seq") ')
    await runner.query('ALTER TABLE "container" RENAME TO "temporary_container"')
    await runner.query(
      'CREATE TABLE "container" ("id" text PRIMARY KEY NOT NULL, "lotId" text NOT NULL, "label" text NOT NULL, "quantity" integer NOT NULL, CONSTRAINT "UQ_0ec7ec7099affb0ef3bad1f9ff6" UNIQUE ("lotId", "label"))',
    )
    await runner.query(
      'INSERT INTO "container"("id", "lotId", "label", "quantity") SELECT "id", "lotId", "label", "quantity" FROM "temporary_container"',
    )
    await runner.query('DROP TABLE "temporary_container"')
    await runner.query('DROP INDEX "lot_received"')
    await runner.query('DROP INDEX "lot_delivery"')
    await runner.query('ALTER TABLE "lot" RENAME TO "temporary_lot"')
    await runner.query(
      'CREATE TABLE "lot" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "partId" text NOT NULL, "deliveryId" text NOT NULL, "supplierId" text NOT NULL, "supplierLot" text NOT NULL, "quantity" integer NOT NULL, "receivedAt" text NOT NULL, CONSTRAINT "UQ_faa4ae0540ad6b7e3221877b446" UNIQUE ("code"))',
    )
    await runner.query(
      'INSERT INTO "lot"("id", "code", "partId", "deliveryId", "supplierId", "supplierLot", "quantity", "receivedAt") SELECT "id", "code", "partId", "deliveryId", "supplierId", "supplierLot", "quantity", "receivedAt" FROM "temporary_lot"',
    )
    await runner.query('DROP TABLE "temporary_lot"')
    await runner.query('CREATE INDEX "lot_received" ON "lot" ("receivedAt", "id") ')
    await runner.query('CREATE INDEX "lot_delivery" ON "lot" ("deliveryId") ')
    await runner.query('DROP INDEX "delivery_received"')
    await runner.query('ALTER TABLE "delivery" RENAME TO "temporary_delivery"')
    await runner.query(
      'CREATE TABLE "delivery" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "supplierId" text NOT NULL, "orderNumber" text NOT NULL, "receivedAt" text NOT NULL, "receivedById" text NOT NULL, CONSTRAINT "UQ_e00121be3f7b06b7b32fa5c8223" UNIQUE ("code"))',
    )
    await runner.query(
      'INSERT INTO "delivery"("id", "code", "supplierId", "orderNumber", "receivedAt", "receivedById") SELECT "id", "code", "supplierId", "orderNumber", "receivedAt", "receivedById" FROM "temporary_delivery"',
    )
    await runner.query('DROP TABLE "temporary_delivery"')
    await runner.query('CREATE INDEX "delivery_received" ON "delivery" ("receivedAt", "id") ')
    await runner.query('DROP INDEX "control_point_family"')
    await runner.query('DROP INDEX "control_point_part"')
    await runner.query('ALTER TABLE "control_point" RENAME TO "temporary_control_point"')
    await runner.query(
      'CREATE TABLE "control_point" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "operationId" text NOT NULL, "planId" text NOT NULL, "partId" text, "familyId" text, "supplierId" text, "holdPlaceId" text, "isGate" boolean NOT NULL, "state" text NOT NULL, "version" integer NOT NULL, CONSTRAINT "UQ_2a6f8e76bb4c8c584d65e0b8719" UNIQUE ("code"), CONSTRAINT "control_point_reach" CHECK (("partId" IS NULL) <> ("familyId" IS NULL)))',
    )
    await runner.query(
      'INSERT INTO "control_point"("id", "code", "operationId", "planId", "partId", "familyId", "supplierId", "holdPlaceId", "isGate", "state", "version") SELECT "id", "code", "operationId", "planId", "partId", "familyId", "supplierId", "holdPlaceId", "isGate", "state", "version" FROM "temporary_control_point"',
    )
    await runner.query('DROP TABLE "temporary_control_point"')
    await runner.query('CREATE INDEX "control_point_family" ON "control_point" ("familyId") ')
    await runner.query('CREATE INDEX "control_point_part" ON "control_point" ("partId") ')
    await runner.query('DROP INDEX "plan_line_characteristic"')
    await runner.query('ALTER TABLE "plan_line" RENAME TO "temporary_plan_line"')
    await runner.query(
      'CREATE TABLE "plan_line" ("planRevisionId" text NOT NULL, "position" integer NOT NULL, "characteristicId" text NOT NULL, "sampling" text NOT NULL, "isRequired" boolean NOT NULL, "isDecisive" boolean NOT NULL, PRIMARY KEY ("planRevisionId", "position"))',
    )
    await runner.query(
      'INSERT INTO "plan_line"("planRevisionId", "position", "characteristicId", "sampling", "isRequired", "isDecisive") SELECT "planRevisionId", "position", "characteristicId", "sampling", "isRequired", "isDecisive" FROM "temporary_plan_line"',
    )
    await runner.query('DROP TABLE "temporary_plan_line"')
    await runner.query('CREATE INDEX "plan_line_characteristic" ON "plan_line" ("characteristicId") ')
    await runner.query('ALTER TABLE "plan_revision" RENAME TO "temporary_plan_revision"')
    await runner.query(
      'CREATE TABLE "plan_revision" ("id" text PRIMARY KEY NOT NULL, "revision" integer NOT NULL, "state" text NOT NULL, "releasedAt" text, "releasedById" text, "planId" text NOT NULL, CONSTRAINT "UQ_bbeb8916bef39088d6a10313ff8" UNIQUE ("planId", "revision"))',
    )
    await runner.query(
      'INSERT INTO "plan_revision"("id", "revision", "state", "releasedAt", "releasedById", "planId") SELECT "id", "revision", "state", "releasedAt", "releasedById", "planId" FROM "temporary_plan_revision"',
    )
    await runner.query('DROP TABLE "temporary_plan_revision"')
    await runner.query('ALTER TABLE "characteristic_revision" RENAME TO "temporary_characteristic_revision"')
    await runner.query(
      'CREATE TABLE "characteristic_revision" ("id" text PRIMARY KEY NOT NULL, "revision" integer NOT NULL, "state" text NOT NULL, "releasedAt" text, "releasedById" text, "characteristicId" text NOT NULL, "name" text NOT NULL, "kind" text NOT NULL, "class" text NOT NULL, "method" text NOT NULL, "instruction" text NOT NULL, "nominal" text, "lower" text, "upper" text, "unit" text, "resolution" text, "acceptableState" text, CONSTRAINT "UQ_78a03bf00b2ba7930c9550344ab" UNIQUE ("characteristicId", "revision"))',
    )
    await runner.query(
      'INSERT INTO "characteristic_revision"("id", "revision", "state", "releasedAt", "releasedById", "characteristicId", "name", "kind", "class", "method", "instruction", "nominal", "lower", "upper", "unit", "resolution", "acceptableState") SELECT "id", "revision", "state", "releasedAt", "releasedById", "characteristicId", "name", "kind", "class", "method", "instruction", "nominal", "lower", "upper", "unit", "resolution", "acceptableState" FROM "temporary_characteristic_revision"',
    )
    await runner.query('DROP TABLE "temporary_characteristic_revision"')
    await runner.query('ALTER TABLE "routing_step" RENAME TO "temporary_routing_step"')
    await runner.query(
      'CREATE TABLE "routing_step" ("partId" text NOT NULL, "position" integer NOT NULL, "operationId" text NOT NULL, PRIMARY KEY ("partId", "position"))',
    )
    await runner.query(
      'INSERT INTO "routing_step"("partId", "position", "operationId") SELECT "partId", "position", "operationId" FROM "temporary_routing_step"',
    )
    await runner.query('DROP TABLE "temporary_routing_step"')
    await runner.query('ALTER TABLE "part" RENAME TO "temporary_part"')
    await runner.query(
      'CREATE TABLE "part" ("id" text PRIMARY KEY NOT NULL, "code" text NOT NULL, "name" text NOT NULL, "version" integer NOT NULL, "revision" text NOT NULL, "unit" text NOT NULL, "tracking" text NOT NULL, "familyId" text, "putAwayPlaceId" text, CONSTRAINT "UQ_878036da1b591e47d78c0277d7d" UNIQUE ("code"))',
    )
    await runner.query(
      'INSERT INTO "part"("id", "code", "name", "version", "revision", "unit", "tracking", "familyId", "putAwayPlaceId") SELECT "id", "code", "name", "version", "revision", "unit", "tracking", "familyId", "putAwayPlaceId" FROM "temporary_part"',
    )
    await runner.query('DROP TABLE "temporary_part"')
    await runner.query('ALTER TABLE "session" RENAME TO "temporary_session"')
    await runner.query(
      'CREATE TABLE "session" ("tokenHash" text PRIMARY KEY NOT NULL, "personId" text NOT NULL, "createdAt" text NOT NULL, "expiresAt" text NOT NULL)',
    )
    await runner.query(
      'INSERT INTO "session"("tokenHash", "personId", "createdAt", "expiresAt") SELECT "tokenHash", "personId", "createdAt", "expiresAt" FROM "temporary_session"',
    )
    await runner.query('DROP TABLE "temporary_session"')
    await runner.query('DROP TABLE "decision_part"')
    await runner.query('DROP TABLE "decision"')
    await runner.query('DROP TABLE "reading"')
    await runner.query('DROP TABLE "inspection_line"')
    await runner.query('DROP INDEX "inspection_finished"')
    await runner.query('DROP INDEX "inspection_opened"')
    await runner.query('DROP INDEX "inspection_state"')
    await runner.query('DROP INDEX "inspection_lot"')
    await runner.query('DROP TABLE "inspection"')
    await runner.query('DROP INDEX "movement_lot"')
    await runner.query('DROP TABLE "movement"')
    await runner.query('DROP TABLE "container"')
    await runner.query('DROP INDEX "lot_received"')
    await runner.query('DROP INDEX "lot_delivery"')
    await runner.query('DROP TABLE "lot"')
    await runner.query('DROP INDEX "delivery_received"')
    await runner.query('DROP TABLE "delivery"')
    await runner.query('DROP INDEX "control_point_family"')
    await runner.query('DROP INDEX "control_point_part"')
    await runner.query('DROP TABLE "control_point"')
    await runner.query('DROP INDEX "plan_line_characteristic"')
    await runner.query('DROP TABLE "plan_line"')
    await runner.query('DROP TABLE "plan_revision"')
    await runner.query('DROP TABLE "plan"')
    await runner.query('DROP TABLE "characteristic_revision"')
    await runner.query('DROP TABLE "characteristic"')
    await runner.query('DROP TABLE "routing_step"')
    await runner.query('DROP TABLE "part"')
    await runner.query('DROP TABLE "operation"')
    await runner.query('DROP TABLE "place"')
    await runner.query('DROP TABLE "partner"')
    await runner.query('DROP TABLE "family"')
    await runner.query('DROP TABLE "person"')
    await runner.query('DROP TABLE "session"')
    await runner.query('DROP TABLE "counter"')
    await runner.query('DROP INDEX "request_key_at"')
    await runner.query('DROP TABLE "request_key"')
    await runner.query('DROP INDEX "audit_subject"')
    await runner.query('DROP TABLE "audit"')
  }
}
