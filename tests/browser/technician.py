"""A technician at the page: the moves of a job from intake to its end, by what the page shows."""

import math
import re

from playwright.sync_api import expect

from tests.browser.test_fit import asked, be, job_of, step_now

STAGES = (
    "intake", "method", "fuel_path", "fit", "prove_tight", "first_start", "load_test",
    "hand_over", "logbook",
)  # fmt: skip
MINUTES = (0, 8, 16, 24)


def held(share):
    """Output held at a screw over the one that is best, as a share of the most [1]."""
    off = math.log(share)
    lean, rich = max(0.0, -off - 0.15), max(0.0, off - 0.2)
    return max(0.3, 1 - 2.6 * lean**2 - 1.1 * rich**2)


class Technician:
    """One job driven stage by stage."""

    def __init__(self, shop, title):
        be(shop)
        self.shop, self.page = shop, shop.page
        self.page.set_default_timeout(10_000)
        shop.open(title, "intake/record")
        self.job = job_of(shop)
        self.at = "intake/record"

    def snapshot(self, views=""):
        return asked(self.shop, f"/api/jobs/{self.job}?views={views}")

    def go(self, place):
        """A page of the job."""
        self.at = place
        self.page.goto(f"{self.shop.server.url}/jobs/{self.job}/{place}")
        expect(self.page.locator('[data-save="saved"]')).to_be_attached()

    def saved(self):
        expect(self.page.locator('[data-save="saved"]')).to_be_attached()

    def done(self, stage):
        return next(one["state"] for one in self.snapshot()["route"] if one["key"] == stage) == (
            "done"
        )

    def sign(self, stage):
        """Sign a stage off on its record."""
        self.go(f"{stage}/record")
        held = self.page.locator(".held li, p.stop").all_inner_texts()
        assert not held, held
        self.page.get_by_role("button", name="Sign off as done").click()
        expect(self.page.locator("p.state")).to_contain_text("Done by Odo Marlin")
        self.saved()

    def fill(self, path, text):
        """Type into a field of the page on show."""
        field = self.page.locator(f'[data-field="{path}"] input').first
        field.fill(text)
        field.press("Enter")
        self.saved()

    def answer(self, path, option):
        """Choose an answer of the page on show."""
        self.page.locator(f'[data-field="{path}"] select').select_option(label=option)
        self.saved()

    def choose(self, method):
        """Choose a method on the comparison."""
        self.go("method/compare")
        self.page.locator(f'[data-school="{method}"]').get_by_role(
            "button", name=re.compile("Choose|Swap")
        ).click()
        expect(self.page.get_by_text("Chosen").first).to_be_visible()
        self.saved()

    def build(self, template):
        """Let the solver build a train."""
        self.go("fuel_path/train")
        self.page.locator(f'[data-template="{template}"]').get_by_role(
            "button", name="Build it"
        ).click()
        expect(self.page.locator("[data-train]").first).to_be_visible()
        self.saved()

    def confirm_all(self):
        """Confirm on the readiness list whatever a person confirms."""
        self.go("fuel_path/ready")
        for one in self.snapshot()["ready"]:
            if not one["confirm"] or one["done"]:
                continue
            row = self.page.locator(f'[data-ready="{one["key"]}"]')
            if one["number"]:
                row.locator("label.number input").fill("permit 118")
                row.locator("label.number input").press("Enter")
                self.saved()
            row.get_by_role("button", name="Confirm").click()
            expect(row.get_by_role("button", name="Not after all")).to_be_visible()
            self.saved()

    def settle(self):
        """Say what is asked before anything is done with the machine, where the page asks it."""
        typed = {"distance": "2 m", "high_loop": "0 m", "depth": "0.25 m", "rise": "0.3 m",
                 "pressure": "7 in wc", "air": "9 °C", "static": "7 in wc", "later": "7 in wc",
                 "full": "6 in wc", "gauge": "manometer 2"}  # fmt: skip
        chosen = {"gaskets": "new", "nuts": "full, every one", "by": "leak fluid"}
        for one in self.snapshot()["ready"]:
            at, _, last = one["path"].rpartition(".")
            if one["done"] or not (one["acts"] or at.startswith("proof.")):
                continue
            place = {"fit": "fit/map", "sites": "intake/site"}.get(
                at.partition(".")[0], "prove_tight/leaks"
            )
            if last in (*typed, *chosen, "upright", "capped") and self.at != place:
                self.go(place)
            if last in typed:
                self.fill(one["path"], typed[last])
            elif last in chosen:
                self.answer(one["path"], chosen[last])
            elif last in ("upright", "capped"):
                self.page.locator(f'[data-field="{one["path"]}"] input').click()
                self.saved()

    def put_right(self):
        """Finish every task of the walk-round."""
        self.go("intake/walk")
        expect(self.page.locator("[data-look]").first).to_be_visible()
        while (buttons := self.page.get_by_role("button", name="Done", exact=True)).count():
            before = buttons.count()
            buttons.first.click()
            expect(buttons).to_have_count(before - 1)
            self.saved()

    def fit_all(self):
        """Every step of the fit sheet in bench mode, by the space bar."""
        self.go("fit/bench")
        expect(self.page.locator("[data-bench]")).to_be_visible()
        for _ in range(self.snapshot("fit")["fit"]["total"]):
            if self.page.get_by_role("button", name="All done").count():
                break
            before = step_now(self.page)
            self.page.keyboard.press("Space")
            still = f'[data-bench="{before}"]:not([data-state="done"])'
            expect(self.page.locator(still)).to_have_count(0)
        expect(self.page.get_by_role("button", name="All done")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.locator('[data-save="saved"]')).to_be_attached(timeout=30000)

    def soap_all(self):
        """Every joint soaped in order, then the lock-up of each gas."""
        self.go("prove_tight/leaks")
        if not self.snapshot("proofs")["proofs"]:
            expect(self.page.get_by_text("nothing to soap")).to_be_visible()
            return
        expect(self.page.locator("[data-joint]").first).to_be_visible()
        rows = self.page.locator(
            '[data-joint]:not([data-state$="fitter"]):not([data-state="tight"])'
        )
        while left := rows.count():
            rows.first.locator(".acts button").first.click()
            expect(rows).to_have_count(left - 1)
        for button in self.page.get_by_role("button", name="Stands still").all():
            button.click()
        self.saved()

    def pick(self, name, among):
        """The fuel looked at, where there are several."""
        if len(among) > 1:
            group = self.page.get_by_role("group", name="Fuel", exact=True)
            group.get_by_role("button", name=name, exact=True).click()

    def start_all(self):
        """Every fuel's gate, a pull that runs, and its proof."""
        starts = self.snapshot("starts")["starts"]
        for one in starts:
            self.go("first_start/start")
            own = "gasoline" if one["own_tank"] else "remote gasoline"
            self.pick(one["name"] if one["gas"] else own, starts)
            self._tick_all("Start gate")
            self.page.get_by_label("What it did").select_option("runs")
            runs = self.page.locator('[data-attempt="runs"]')
            before = runs.count()
            self.page.get_by_role("button", name="Note the attempt").click()
            expect(runs).to_have_count(before + 1)
            self._tick_all("Proof")
            self.saved()

    def _tick_all(self, region):
        part = self.page.get_by_role("region", name=re.compile(region))
        expect(part.get_by_role("checkbox").first).to_be_visible()
        for box in part.get_by_role("checkbox").all():
            box.check()
        expect(part.get_by_text("all good")).to_be_visible()

    def meter_all(self):
        """Every gas's screw swept, locked where the page says, and looked at after."""
        gases = self.snapshot("metering")["metering"]
        for one in gases:
            self.go("first_start/metering")
            self.pick(one["name"], gases)
            if one["screw"]:
                self._sweep(one)
            expect(self.page.locator("[data-look]").first).to_be_visible()
            for row in self.page.locator("[data-look]").all():
                good = row.get_by_role("button", name="Good", exact=True)
                if good.get_attribute("aria-pressed") == "false":
                    good.click()
                    self.saved()

    def _sweep(self, gas):
        """Readings where the page asks for them, off a curve of the test's own."""
        most, best = 0.95 * gas["expected"]["value"], 1.15 * gas["start"]["value"]
        asks = self.page.locator("[data-next]")
        for _ in range(14):
            turns = asks.get_attribute("data-next")
            if not turns:
                break
            self.page.get_by_role("button", name=re.compile("Type (a reading|it instead)")).click()
            row = self.page.locator(".typing")
            output = row.locator('[data-field$=".output"] input')
            expect(output).to_be_focused()
            output.fill(f"{most * held(float(turns) / best):.0f} W")
            output.press("Enter")
            self.saved()
            row.get_by_role("button", name="Close").click()
            expect(asks).not_to_have_attribute("data-next", turns)
        assert self.page.locator("[data-setting]").count(), asks.inner_text()
        self.page.get_by_role("button", name=re.compile("Lock (it there|again)")).click()
        expect(self.page.get_by_role("term").filter(has_text="Locked at")).to_be_visible()
        self.saved()

    def load_all(self):
        """Every fuel the stage waits for: loaded for 24 minutes, the plug read, kept."""
        tests = self.snapshot("load_tests")["load_tests"]
        for one in tests:
            if not one["holds"]:
                continue
            self.go("load_test/test")
            self.pick(one["name"], tests)
            self.run(one, lam="0.95" if one["gas"] else "0.90")
            self.plug("gray" if one["gas"] else "tan")
            self.page.get_by_role("group", name="Decide").get_by_role(
                "button", name="Keep it", exact=True
            ).click()
            expect(self.page.get_by_text("Settled.", exact=True)).to_be_visible()
            self.saved()

    def run(self, test, *, lam, begin=True):
        """A run under the planned load, a reading every eight minutes."""
        page = self.page
        if begin:
            page.get_by_role("button", name=re.compile("Begin the run|Another run")).click()
            self.saved()
        page.get_by_label("Throttle under load").select_option("1")
        self.saved()
        watts = test["least"]["value"] * 1.1
        for minute in MINUTES:
            page.get_by_role("button", name="Note a reading").click()
            row = page.locator(".typing")
            expect(row.locator('[data-field$=".output"] input')).to_be_focused()
            for name, text in (("after", f"{minute} min"), ("output", f"{watts:.0f} W"),
                               ("lam", lam)):  # fmt: skip
                field = row.locator(f'[data-field$=".{name}"] input')
                field.fill(text)
                field.press("Enter")
            self.saved()
            row.get_by_role("button", name="Close").click()
            expect(page.get_by_role("button", name="Note a reading")).to_be_focused()
        expect(page.locator("[data-seconds]")).to_have_attribute("data-seconds", "1440")

    def plug(self, look):
        """The plug, new before, read by the chart."""
        page = self.page
        page.get_by_label("Plug went in").select_option("1")
        self.saved()
        page.get_by_role("button", name=re.compile("Read the plug|Another picture")).click()
        page.locator(f'[data-plug="{look}"]').click()
        expect(page.locator("[data-plug-read]")).to_be_visible()
        self.saved()

    def reopen(self):
        """Take every signature back, so that each stage is looked at and signed again."""
        for stage in reversed(STAGES):
            self.go(f"{stage}/record")
            back = self.page.get_by_role("button", name="Back to not started")
            expect(self.page.locator("p.state")).to_be_visible()
            if back.count():
                back.click()
                expect(self.page.locator("p.state")).to_contain_text("Not started.")
                self.saved()

    def intake(self):
        """Every page of intake looked at; nothing of it is open."""
        for place in ("set", "machine", "walk", "wish", "site", "sketch"):
            self.go(f"intake/{place}")
            expect(self.page.get_by_role("heading", level=1)).to_be_visible()
        assert self.snapshot()["questions"] == []

    def method(self):
        """The comparison shows what is chosen, and why."""
        self.go("method/compare")
        expect(self.page.get_by_text("Chosen").first).to_be_visible()

    def teach_all(self):
        """Every order on the owner's cards done by the owner, move by move, by the clock."""
        self.go("hand_over/teach")
        rows = self.page.locator('[data-drill][data-settled="false"]')
        expect(self.page.locator("[data-taught]")).to_be_visible()
        while left := rows.count():
            drill = self.page.locator(f'[data-drill="{rows.first.get_attribute("data-drill")}"]')
            drill.get_by_role("button", expanded=False).click()
            moves = drill.locator("ol li").count()
            drill.get_by_role("button", name="Start the clock").click()
            for _ in range(moves):
                drill.get_by_role("button", name=re.compile("ove done")).click()
            expect(rows).to_have_count(left - 1)
            self.saved()

    def core_back(self):
        """The old part goes back by a day, and the owner knows, where a deposit is on it."""
        self.go("hand_over/close")
        expect(self.page.get_by_role("heading", name="Record of work")).to_be_visible()
        if not self.page.locator('[data-field="hand_over.core.due"]').count():
            return
        self.fill("hand_over.core.due", "2026-12-11")
        self.page.get_by_role("checkbox", name=re.compile("The owner was told")).click()
        self.saved()

    def sign_record(self, *names):
        """Both draw their names under the record as it stands; that seals it."""
        self.go("hand_over/close")
        for place, name in zip(("technician", "owner"), names or ("", ""), strict=True):
            field = self.page.locator(f'[data-field="hand_over.{place}"]')
            if name or not field.get_by_label("Name").input_value():
                field.get_by_label("Name").fill(name or "Ada Marsh")
            self.draw(field.get_by_role("application"))
            field.get_by_role("button", name=re.compile("Sign as")).click()
            expect(field).to_have_attribute("data-signed", "true")
            self.saved()
        expect(self.page.locator("[data-sealed]")).to_be_visible()

    def draw(self, pad):
        """A name in one stroke, from side to side."""
        pad.scroll_into_view_if_needed()
        box = pad.bounding_box()
        mouse = self.page.mouse
        for at in range(13):
            x = box["x"] + box["width"] * (0.1 + 0.06 * at)
            mouse.move(x, box["y"] + box["height"] * (0.65 if at % 2 else 0.35))
            if not at:
                mouse.down()
        mouse.up()

    def rest(self):
        """From where the job stands to its end: whatever each stage asks, then its signature."""
        work = {
            "intake": (self.intake,),
            "method": (self.method,),
            "fuel_path": (self.confirm_all, self.settle),
            "fit": (self.confirm_all, self.put_right, self.fit_all, self.settle),
            "prove_tight": (self.settle, self.soap_all, self.settle),
            "first_start": (self.start_all, self.meter_all),
            "load_test": (self.confirm_all, self.settle, self.load_all),
            "hand_over": (self.confirm_all, self.teach_all, self.core_back, self.sign_record),
        }  # fmt: skip
        for stage in STAGES:
            if self.done(stage):
                continue
            for step in work.get(stage, (self.confirm_all,)):
                step()
            self.sign(stage)
        assert all(one["state"] == "done" for one in self.snapshot()["route"])
