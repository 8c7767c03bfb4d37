package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class UnitsTest {
    @ParameterizedTest
    @CsvSource({
        "0, 0 m²",
        "0.00012, 1.200 cm²",
        "0.5, 0.5000 m²",
        "35.857, 35.86 m²",
        "9999.6, 10 000 m²",
        "33284, 33 280 m²",
        "1200000, 1.200 km²",
        "3.4e12, 3 400 000 km²"
    })
    void areasAreToldWithFourDigitsAndWithoutPowers(double area, String told) {
        assertThat(Units.area(area).replace('\u202f', ' ')).isEqualTo(told);
    }

    @ParameterizedTest
    @CsvSource({
        "0, 0 m³",
        "0.0000125, 12.50 cm³",
        "0.99523, 0.9952 m³",
        "123456, 123 500 m³",
        "1e-18, 0.0000 cm³",
        "2.5e9, 2.500 km³"
    })
    void volumesToo(double volume, String told) {
        assertThat(Units.volume(volume).replace('\u202f', ' ')).isEqualTo(told);
    }
}
