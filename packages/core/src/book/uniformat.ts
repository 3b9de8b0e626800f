import type { Classification } from './cost-class.ts';

/**
 * UNIFORMAT II elemental classification for buildings, levels 1 to 3 (public: ASTM E1557, NISTIR 6389).
 */
const CLASSES = `
A|Substructure
A10|Foundations
A1010|Standard foundations
A1020|Special foundations
A1030|Slab on grade
A20|Basement construction
A2010|Basement excavation
A2020|Basement walls
B|Shell
B10|Superstructure
B1010|Floor construction
B1020|Roof construction
B20|Exterior enclosure
B2010|Exterior walls
B2020|Exterior windows
B2030|Exterior doors
B30|Roofing
B3010|Roof coverings
B3020|Roof openings
C|Interiors
C10|Interior construction
C1010|Partitions
C1020|Interior doors
C1030|Fittings
C20|Stairs
C2010|Stair construction
C2020|Stair finishes
C30|Interior finishes
C3010|Wall finishes
C3020|Floor finishes
C3030|Ceiling finishes
D|Services
D10|Conveying
D1010|Elevators and lifts
D1020|Escalators and moving walks
D1090|Other conveying systems
D20|Plumbing
D2010|Plumbing fixtures
D2020|Domestic water distribution
D2030|Sanitary waste
D2040|Rain water drainage
D2090|Other plumbing systems
D30|HVAC
D3010|Energy supply
D3020|Heat generating systems
D3030|Cooling generating systems
D3040|Distribution systems
D3050|Terminal and package units
D3060|Controls and instrumentation
D3070|Systems testing and balancing
D3090|Other HVAC systems and equipment
D40|Fire protection
D4010|Sprinklers
D4020|Standpipes
D4030|Fire protection specialties
D4090|Other fire protection systems
D50|Electrical
D5010|Electrical service and distribution
D5020|Lighting and branch wiring
D5030|Communications and security
D5090|Other electrical systems
E|Equipment and furnishings
E10|Equipment
E1010|Commercial equipment
E1020|Institutional equipment
E1030|Vehicular equipment
E1090|Other equipment
E20|Furnishings
E2010|Fixed furnishings
E2020|Movable furnishings
F|Special construction and demolition
F10|Special construction
F1010|Special structures
F1020|Integrated construction
F1030|Special construction systems
F1040|Special facilities
F1050|Special controls and instrumentation
F20|Selective building demolition
F2010|Building elements demolition
F2020|Hazardous components abatement
G|Building sitework
G10|Site preparation
G1010|Site clearing
G1020|Site demolition and relocations
G1030|Site earthwork
G1040|Hazardous waste remediation
G20|Site improvements
G2010|Roadways
G2020|Parking lots
G2030|Pedestrian paving
G2040|Site development
G2050|Landscaping
G30|Site mechanical utilities
G3010|Water supply
G3020|Sanitary sewer
G3030|Storm sewer
G3040|Heating distribution
G3050|Cooling distribution
G3060|Fuel distribution
G3090|Other site mechanical utilities
G40|Site electrical utilities
G4010|Electrical distribution
G4020|Site lighting
G4030|Site communications and security
G4090|Other site electrical utilities
G90|Other site construction
G9010|Service and pedestrian tunnels
G9090|Other site systems and equipment
`;

export const UNIFORMAT: Classification = {
  name: 'UNIFORMAT II',
  classes: CLASSES.trim()
    .split('\n')
    .map((line) => {
      const [code, title] = line.split('|');
      return { code: code!, title: title! };
    }),
};
