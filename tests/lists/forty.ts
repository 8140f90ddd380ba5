/** A list of forty lines, as long as one gets in an evening: a carnival float, invented. */
export const FORTY = `name: Carnival float
pack 2 x 12 V 100 Ah AGM in series
e-stop
main switch
2 drive gearmotors 24 V 250 W, rated 13.4 A, stall 80 A, one on a driver
turntable motor 24 V 4 A
canopy winch 24 V 6 A, stall 32 A
left wing actuator 24 V 3.2 A, end switches
right wing actuator 24 V 3.2 A, end switches
head motor 24 V 1.6 A, stall 9 A
tail motor 24 V 1.6 A, stall 9 A
bubble pump 24 V 2 A
fog pump 24 V 1.5 A
3 fans 24 V 0.3 A
fog heater 24 V 60 W
2 steppers 24 V 1.7 A per phase 1.5 ohm
work lights 12 V 4 x 10 W
chase lights 12 V 30 W
2 strobes 12 V 15 W
horn 12 V 3 A
amplifier 12 V 40 W
12 V converter 20 A
6 servos 6 V, stall 2.3 A
2 micro servos 6 V 0.65 A stall
jaw servo 6 V, running 0.6 A, stall 3 A
controller 5 V 0.3 A
sequencer board 5 V 0.2 A
computer 5 V 3 A max
camera 5 V 0.25 A
display 5 V 0.5 A
radio receiver 5 V 50 mA
lidar 5 V 0.45 A
pixel strip 5 V 2 A
controller talks to all drivers
receiver talks to controller by serial
computer -> controller usb
sequencer board sends pwm to the servos
lengths: drivers 1.2 m, motors 0.8 m
lights 2.5 m, servos 1.5 m
ambient 35 C
must run 2 hours`;
