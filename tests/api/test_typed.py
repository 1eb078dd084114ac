from tests.api.making import WithServer


class Typed(WithServer):
    def read(self, text: str, **fields: object) -> dict:  # type: ignore[type-arg]
        answer = self.client.post("/api/arithmetic", json={"text": text, "before": 0, **fields})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_units_of_a_field_of_a_shot(self) -> None:
        swaying = {"shot": "jetty-walk-swaying", "frame": 1}
        for text, unit, value in (
            ("50 cm", "m", 0.5),
            ("1 s", "f", 24.0),
            ("3 f", "s", 0.125),
            ("5,5", "s", 5.5),
            ("1:02", "s", 62.0),
            ("120/24", "cm", 5.0),
        ):
            self.assertAlmostEqual(self.read(text, unit=unit, **swaying)["value"], value, msg=text)
        pan = self.read("30 px", unit="°", at="layer:sway-1.axes.pan.swing", **swaying)["value"]
        shown = self.edit(
            {"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": pan}]},
            "jetty-walk-swaying",
        )
        self.assertIn("revision", shown)
        truck = self.read("30 px", unit="cm", at="layer:sway-1.axes.truck.swing", **swaying)["value"]
        self.assertGreater(truck, 0.5)

    def test_without_a_shot_as_in_the_form_of_a_new_one(self) -> None:
        self.assertEqual(self.read("144 f", unit="s", fps=24)["value"], 6.0)
        self.assertIn("frame rate is unknown", self.read("144 f", unit="s")["fault"])
        for text, fault in (
            ("abc", "start a formula with ="),
            ("1,000", "can be 1000 or 1"),
            ("3 kg", "cannot stand|write ="),
            ("50 cm", "cannot be converted to s"),
        ):
            self.assertRegex(self.read(text, unit="s", fps=24)["fault"], fault)

    def test_many_at_once_and_the_first_that_is_wrong(self) -> None:
        many = self.client.post("/api/arithmetic/many", json={"texts": ["1,5", "2 m", "30 mm"], "unit": "cm"}).json()
        self.assertEqual(many["values"], [1.5, 200.0, 3.0])
        wrong = self.client.post("/api/arithmetic/many", json={"texts": ["1", "1,000", "x"], "unit": "cm"}).json()
        self.assertEqual((wrong["values"], wrong["wrong"]), ([], 1))

    def test_what_is_out_of_reach_is_refused(self) -> None:
        for fields in ({"fps": 0}, {"fps": 1e9}, {"frame": 1e300}, {"unit": "x" * 30}, {"shot": "missing"}):
            answer = self.client.post("/api/arithmetic", json={"text": "1", "before": 0, **fields})
            self.assertIn(answer.status_code, (404, 422), fields)
        self.assertEqual(self.client.post("/api/arithmetic/many", json={"texts": ["1"] * 50_001}).status_code, 422)
        for at in ("layer:none.axes.pan.swing", "·", "layer:" + "x" * 200):
            self.assertEqual(
                self.client.post(
                    "/api/arithmetic", json={"text": "3 px", "before": 0, "shot": "jetty-walk", "unit": "°", "at": at}
                ).status_code,
                200,
            )
